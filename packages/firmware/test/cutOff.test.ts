import { plantOf } from '@jolly/bench';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, type Talk, talkTo, workshop } from './fixtures/builtMachine';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { cardWith, heard, until, fedBy } from './fixtures/printing';

const plover = workshop();
const tray = (layers?: number) => testPrint(plover.facts(), derive(plover.facts()), layers);

describe('a print that was cut off', () => {
  it.each([
    ['taken', 'noted', true],
    ['not taken', 'untaken', false],
  ])('tells that its place is %s by the card, while it goes on', async (_, state, takes) => {
    const built = await plover.built(own('resume.on', true));
    const card = cardWith(tray(2));
    const talk = await talkTo({ ...built, seed: 1, card: { ...card, write: (block, from) => takes && card.write(block, from) } });
    expect(talk.values('state', 'resume')).toMatchObject({ state: 'none' });
    talk.ask('card print n=1');
    until(talk, () => talk.bench.truth().position.e > 40, 3000);
    expect(talk.values('state', 'resume')).toMatchObject({ state, file: 'TRAY.GCO' });
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 3000)).toBe(true);
    expect(talk.values('state', 'resume')).toEqual({ state: 'none' });
  }); // prettier-ignore
  it.each([false, true])('goes on where it was, the card being locked: %s', async (locked) => {
    const { facts, state } = await plover.built(own('resume.on', true), own('card.locked', locked));
    const text = tray(8);
    const card = cardWith(text);
    const plant = plantOf(facts, 1);
    const first = await talkTo({ facts, state, plant, card });
    first.ask('card print n=1');
    until(first, () => first.bench.truth().position.e > 120, 3000);
    const fed = first.bench.truth().filament.fedMm;
    const store = first.bench.store();
    const atS = first.bench.nowS();
    plant.off(atS);
    expect(card.names()).toEqual(locked ? ['TRAY    GCO'] : ['TRAY    GCO', 'RESUME  NOT']);
    const second = await talkTo({ facts, state: { ...state, store }, plant, card, atS: atS + 60 });
    expect(second.values('state', 'resume')).toMatchObject({ state: 'kept', file: 'TRAY.GCO' });
    expect(second.ask('card resume', 900).at(-1)).toBe('done');
    expect(until(second, () => heard(second, 'card state=over').length > 0, 3000)).toBe(true);
    const end = second.bench.truth();
    expect(end.blocked).toEqual({ x: 0, y: 0, z: 0 });
    expect(end.nozzleInPlateMm).toBeLessThan(0.1);
    // What lay between the note and the cut is printed twice: ten seconds, and what was planned ahead.
    const twice = end.filament.fedMm - fedBy(text);
    expect(twice).toBeGreaterThanOrEqual(-0.01);
    expect(twice).toBeLessThan(35);
    expect(end.filament.fedMm).toBeGreaterThan(fed);
    expect(second.values('state', 'resume')).toMatchObject({ state: 'none' });
  });
  it('goes on with the extruder and at the heats it had', async () => {
    const facts = await demoFacts('bittern', ...TWO_EXTRUDERS, own('resume.on', true));
    const state = flashed(facts, await buildFor(facts, plover.compiler()));
    const text = `T1\n${testPrint(facts, derive(facts), 6)}`;
    const card = cardWith(text);
    const plant = plantOf(facts, 1);
    const first = await talkTo({ facts, state, plant, card });
    first.ask('M104 T0 S150');
    first.ask('card print n=1');
    expect(until(first, () => first.bench.truth().secondFilamentMm > 60, 3000)).toBe(true);
    const { position, secondFilamentMm } = first.bench.truth();
    const store = first.bench.store();
    const atS = first.bench.nowS();
    plant.off(atS);
    const second = await talkTo({ facts, state: { ...state, store }, plant, card, atS: atS + 60 });
    expect(second.ask('card resume', 1200).at(-1)).toBe('done');
    expect(second.ask('M105')).toContainEqual(
      expect.stringMatching(/^heat body=hotend now=\S+ target=150\.0/),
    );
    expect(until(second, () => heard(second, 'card state=over').length > 0, 3000)).toBe(true);
    const end = second.bench.truth();
    expect(end.position.e).toBe(position.e);
    expect(end.secondFilamentMm).toBeGreaterThan(secondFilamentMm);
  });
  it.each([false, true])(
    'follows the plate as before, from its zero point, with its fan, the card being locked: %s',
    async (locked) => {
      const { facts, state } = await plover.built(
        own('resume.on', true),
        own('offsets.on', true),
        own('map.fade', 0),
        own('card.locked', locked),
      );
      const lines = ['G55', 'M106 S128', 'G1 X50 Y30 Z0.5 F6000', 'G4 S12', 'G4 S1', 'G4 S30', 'G1 X170 Y160', 'G4 S9']; // prettier-ignore
      const card = cardWith(`${lines.join('\n')}\n`);
      const begun = async (plant = plantOf(facts, 1)) => {
        const talk = await talkTo({ facts, state, plant, card });
        for (const line of ['G28', 'map take', 'origin n=2 x=10 y=10', 'card print n=1']) talk.ask(line);
        return talk;
      };
      const places = (talk: Talk) =>
        [60, 180].map((x) => {
          expect(until(talk, () => Math.abs(talk.bench.truth().position.x - x) < 0.05, 200)).toBe(true);
          talk.bench.advance(4);
          const { position, nozzleAbovePlateMm, fans } = talk.bench.truth();
          return [position.y, nozzleAbovePlateMm, fans['part-fan']] as const;
        });
      const uncut = places(await begun());
      const plant = plantOf(facts, 1);
      const first = await begun(plant);
      first.bench.advance(25);
      const store = first.bench.store();
      const atS = first.bench.nowS();
      plant.off(atS);
      const second = await talkTo({ facts, state: { ...state, store }, plant, card, atS: atS + 60 });
      expect(second.ask('card resume', 900).at(-1)).toBe('done');
      for (const [at, [y, above, fan]] of places(second).entries()) {
        expect(y).toBeCloseTo(uncut[at]![0], 1);
        expect(Math.abs(above! - uncut[at]![1]!)).toBeLessThan(0.01);
        expect(fan).toBeCloseTo(uncut[at]![2]!, 2);
      }
    },
  );
});
