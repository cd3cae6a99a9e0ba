import { reallyOf } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { calibrationTools } from '@jolly/core/calibration/calibrationTools';
import type { Chosen, Found } from '@jolly/core/calibration/calibrationTool';
import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { certain } from '@jolly/core/tree/certain';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { buildFor, compilerForTests, demoFacts, own } from './fixtures/builtMachine';
import { personAt } from './fixtures/person';

const compiler = compilerForTests();
afterAll(() => compiler.close());

interface Standing {
  facts: Facts;
  image: Uint8Array;
}
async function standing(id: string, ...edits: Parameters<typeof demoFacts>[1][]): Promise<Standing> {
  const facts = await demoFacts(id, ...edits);
  const outcome = await buildFor(facts, compiler);
  if ('failed' in outcome) throw new Error(outcome.failed.message);
  return { facts, image: outcome.image };
}
let plover: Standing;
beforeAll(async () => {
  plover = await standing('plover');
});

const toolOf = (facts: Facts, id: string) =>
  certain(calibrationTools(facts, derive(facts)).find((tool) => tool.id === id), id); // prettier-ignore
async function measured(on: Standing, id: string, chosen: Chosen = {}, hands: readonly HandAct[] = []) {
  const person = await personAt(on.facts, on.image, hands);
  const found = await person.measure(toolOf(on.facts, id), chosen);
  return { person, found };
}
const figure = (found: Found, id: string) =>
  certain(found.figures.find((one) => one.id === id)?.value, `${id} of: ${found.words} ${found.evidence.join(' ')}`); // prettier-ignore
/** The truth of the bench that `personAt` makes. */
const really = (facts: Facts) => reallyOf(facts, 1);

describe('measured at the machine, it is what the bench knows', () => {
  it('the scatter of a good probe, and of one that is poor, with what may be behind it', async () => {
    const good = await measured(plover, 'probe-repeat');
    expect(good.found.outcome).toBe('found');
    expect(figure(good.found, 'spread')).toBeLessThan(0.01);
    const poor = await measured(plover, 'probe-repeat', {}, [{ lay: 'probe-scatters', on: true }]);
    expect(poor.found).toMatchObject({ outcome: 'poor', values: [], edits: [] });
    expect(poor.found.causes?.[0]?.look).toBeTruthy();
  });

  it('the place of the probe beside the nozzle', async () => {
    const { found } = await measured(plover, 'probe-place');
    const { x, y } = certain(really(plover.facts).probe, 'a probe');
    expect(Math.abs(figure(found, 'offset-x') - x)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(figure(found, 'offset-y') - y)).toBeLessThanOrEqual(0.1);
    expect(found.lines[0]).toMatch(/^offset x=/);
  });

  it.each([
    ['a lifted limit', { below: 'lift' }],
    ['an offset that is too deep first', { below: 'deep' }],
  ])('the Z offset, with %s, within 0.025 mm', async (_, chosen) => {
    const { found, person } = await measured(plover, 'z-offset', chosen);
    const { z } = certain(really(plover.facts).probe, 'a probe');
    expect(found.outcome).toBe('found');
    expect(Math.abs(figure(found, 'offset-z') - z)).toBeLessThanOrEqual(0.025);
    // Nothing was rammed, and the board has its old offset until it is told.
    expect(person.bench.truth().nozzleInPlateMm).toBe(0);
    expect((await person.ask('M503')).lines.join()).toContain(`z=${derive(plover.facts).get('probe.offset.z')?.value}`); // prettier-ignore
  });

  it('steps down never by more than a millimetre, shrinking as it nears', async () => {
    const { person } = await measured(plover, 'z-offset');
    const steps = person.pictures().flatMap((picture) => (picture.kind === 'shim' ? [picture] : []));
    expect(steps.length).toBeGreaterThan(20);
    for (const { shownZ, stepMm } of steps) expect(shownZ < 1.6 ? stepMm : 0).toBeLessThanOrEqual(0.1);
  });

  it('turns level the plate', async () => {
    const { found, person } = await measured(plover, 'tram');
    expect(found.outcome).toBe('found');
    expect(figure(found, 'screws-off')).toBeLessThanOrEqual(0.1);
    const { x, y } = plover.facts.machine.frame.bed_mm;
    const at = (across: number, back: number) => certain(person.bench.plateAt(x[0] + 30 + across * (x[1] - x[0] - 60), y[0] + 30 + back * (y[1] - y[0] - 60)), 'plate'); // prettier-ignore
    const corners = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
    expect(Math.max(...corners) - Math.min(...corners)).toBeLessThan(0.25);
  });

  it('the map, within what the probe scatters', async () => {
    const { found, person } = await measured(plover, 'map');
    const map = certain(found.map, 'a map');
    const { probe } = really(plover.facts);
    const dx = certain(probe, 'a probe').x - Number(derive(plover.facts).get('probe.offset.x')?.value);
    const dy = certain(probe, 'a probe').y - Number(derive(plover.facts).get('probe.offset.y')?.value);
    const off = map.ys.flatMap((y, row) => map.xs.map((x, column) => map.z[row]![column]! - certain(person.bench.plateAt(x + dx, y + dy), 'plate'))); // prettier-ignore
    const mean = off.reduce((sum, one) => sum + one, 0) / off.length;
    for (const one of off) expect(Math.abs(one - mean)).toBeLessThan(0.015);
    expect(found.edits[0]?.path).toEqual(['bed_map']);
    expect(person.pictures().some((picture) => picture.kind === 'map' && picture.partly)).toBe(true);
  });

  it('steps of the extruder within 1 %', async () => {
    const { found } = await measured(plover, 'extruder-steps');
    const had = Number(derive(plover.facts).get('steps.e')?.value);
    expect(Math.abs((figure(found, 'steps-e') * really(plover.facts).bite) / had - 1)).toBeLessThan(0.01);
    expect(found.evidence.length).toBeGreaterThanOrEqual(2);
  });

  it.each(['hotend', 'bed'])('a tuned %s runs over less than before', async (body) => {
    const { found } = await measured(plover, `pid-${body}`);
    expect(found.outcome).toBe('found');
    const { picture } = found;
    if (picture?.kind !== 'warming') throw new Error('no curve');
    const over = (curve: readonly { c: number }[]) => Math.max(...curve.map(({ c }) => c)) - picture.targetC;
    expect(over(picture.now)).toBeLessThan(over(certain(picture.before, 'before')) + 0.3);
    expect(found.words).toMatch(/guard/);
  });

  it('no step is lost at the usual current; at one too low it is found, and asked for more', async () => {
    const usual = await measured(plover, 'current-x');
    expect(usual.found.words).toMatch(/no step is lost/i);
    const weak = await measured(plover, 'current-x', { speed: 200 }, [{ lay: 'current-low', on: true }]);
    expect(weak.found.words).toMatch(/lost .* mm of steps|ended early/);
  });

  it('the first layer ends where strands merge, and the offset takes it over', async () => {
    const { found } = await measured(plover, 'first-layer');
    expect(found.outcome).toBe('found');
    const offset = certain(
      found.values.find(({ key }) => key === 'probe.offset.z'),
      'an offset',
    ).value;
    const { z } = certain(really(plover.facts).probe, 'a probe');
    expect(Math.abs(offset - z)).toBeLessThan(0.1);
  });
});
