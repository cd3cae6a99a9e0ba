import { reallyOf } from '@jolly/bench';
import { calibrationTools } from '@jolly/core/calibration/calibrationTools';
import { isPattern } from '@jolly/core/calibration/patternTools';
import type { Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import { certain } from '@jolly/core/tree/certain';
import { beforeAll, describe, expect, it } from 'vitest';
import { buildFor, demoFacts, own } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { personAt } from './fixtures/person';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';

const compiler = compilerForTests();

const WARM = ['hotend', 'hotend-2'] as const;
async function standing(...edits: Edit[]) {
  const facts = await demoFacts('bittern', ...TWO_EXTRUDERS, ...edits);
  const outcome = await buildFor(facts, compiler);
  if ('failed' in outcome) throw new Error(outcome.failed.message);
  return { facts, image: outcome.image };
}
type Standing = Awaited<ReturnType<typeof standing>>;
let bittern: Standing;
beforeAll(async () => {
  bittern = await standing(own('driver.report', true));
});

/** Measures with the other tool in use, and tells what was warm and what was fed. */
async function measuredWith(tool: 'T0' | 'T1', id: string, { facts, image }: Standing = bittern) {
  const person = await personAt(facts, image, []);
  await person.ask(tool);
  const warmest = { hotend: 0, 'hotend-2': 0 };
  const look = () => {
    const { temperatureC } = person.bench.view();
    for (const body of WARM) warmest[body] = Math.max(warmest[body], temperatureC[body] ?? 0);
  };
  const { filamentMm, secondFedMm } = person.bench.view();
  const found = await person.measure(
    certain(
      calibrationTools(facts, derive(facts)).find((one) => one.id === id),
      id,
    ),
    {},
    look,
  );
  const now = person.bench.view();
  const fed = { e: now.filamentMm - filamentMm, e2: now.secondFedMm - secondFedMm };
  return { person, found, warmest, fed };
}

describe('of two extruders each is measured by itself, whichever is in use', () => {
  it.each([
    ['extruder-steps', 'T1', 'e', 'hotend', 'M92'],
    ['second-extruder-steps', 'T0', 'e2', 'hotend-2', 'second'],
  ] as const)('%s', async (id, other, feeds, warms, line) => {
    const { found, warmest, fed } = await measuredWith(other, id);
    const key = feeds === 'e' ? 'steps.e' : 'steps.second-e';
    const had = numberOf(derive(bittern.facts), key);
    expect(found.outcome, found.words).toBe('found');
    const [value] = found.values;
    expect(value?.key).toBe(key);
    const { bite, secondBite } = reallyOf(bittern.facts, 1);
    const really = feeds === 'e' ? bite : secondBite;
    expect(Math.abs(((value?.value ?? 0) * really) / had - 1)).toBeLessThan(0.01);
    expect(found.lines[0]?.split(' ')[0]).toBe(line);
    // The other one neither warmed nor fed.
    expect(fed[feeds === 'e' ? 'e2' : 'e']).toBe(0);
    expect(warmest[warms === 'hotend' ? 'hotend-2' : 'hotend']).toBeLessThan(30);
  });

  it('the PID of the second, the first one cold, and the values it had are its own', async () => {
    const rough = await standing(...['p', 'i', 'd'].map((letter, at) => own(`pid.second-hotend.${letter}`, [7, 1.5, 0][at])));
    const { found, warmest } = await measuredWith('T0', 'pid-second-hotend', rough);
    expect(found.values.map(({ key }) => key), found.words).toEqual(['p', 'i', 'd'].map((letter) => `pid.second-hotend.${letter}`));
    expect(found.lines[0]).toMatch(/^second p=[\d.]+ i=[\d.]+ d=[\d.]+$/);
    expect(warmest['hotend-2']).toBeGreaterThan(195);
    expect(warmest.hotend).toBeLessThan(30);
  }); // prettier-ignore

  it('the PID of the first, while the other was in use', async () => {
    const { found, warmest } = await measuredWith('T1', 'pid-hotend');
    expect(found.outcome, found.words).not.toBe('ended');
    expect(warmest.hotend).toBeGreaterThan(195);
    expect(warmest['hotend-2']).toBeLessThan(30);
  });

  it('the current of the second, by its own driver, which says its own', async () => {
    const amps = numberOf(derive(bittern.facts), 'current.second-e');
    const { person, found } = await measuredWith('T0', 'current-second-e');
    expect(found.values.map(({ key }) => key)).toEqual(['current.second-e']);
    const other = Math.round((amps + 0.1) * 100) / 100;
    await person.ask(`second c=${other}`);
    const said = (await person.ask('state')).lines.filter((line) => line.startsWith('driver '));
    const of = (axis: string) =>
      / amps=([\d.]+)/.exec(said.find((line) => line.includes(`axis=${axis} `)) ?? '')?.[1];
    expect(Number(of('e2'))).toBeCloseTo(other, 2);
    expect(Number(of('e'))).toBeCloseTo(numberOf(derive(bittern.facts), 'current.e'), 2);
  });

  it('with a drive of its own it feeds what it is asked, the way it is asked', async () => {
    const drive = { kind: 'roller', diameter_mm: 7, gear_ratio: 5, plus_is: 'anticlockwise' };
    const other = await standing({ path: ['axes', 'e2'], value: drive }, own('extrude.from', 0));
    const person = await personAt(other.facts, other.image, []);
    for (const line of ['M83', 'T0', 'G1 E10 F120', 'T1', 'G1 E20 F120', 'M400']) await person.ask(line);
    const { position, secondFilamentMm } = person.bench.view();
    expect(position.e).toBeCloseTo(10, 1);
    expect(secondFilamentMm).toBeCloseTo(20, 1);
  });

  it('the pattern of its lead is printed by it, at its own heat, and the first is in use again after it', async () => {
    const leading = await standing(own('lead.on', true));
    const tool = calibrationTools(leading.facts, derive(leading.facts)).find(
      ({ id }) => id === 'second-lead',
    );
    if (!tool || !isPattern(tool)) throw new Error('there is no pattern');
    const person = await personAt(leading.facts, leading.image, []);
    const refused: string[] = [];
    for (const line of tool.pattern
      .gcode()
      .split('\n')
      .filter((text) => /^[^;]/.test(text))) {
      const { lines } = await person.ask(line);
      if (lines.some((said) => said.startsWith('error'))) refused.push(`${line}: ${lines.join()}`);
    }
    // The end code lifts, which may be refused at full height.
    expect(refused).toEqual([]);
    const { secondFilamentMm, position } = person.bench.view();
    expect(secondFilamentMm).toBeGreaterThan(20);
    expect(Math.abs(position.e)).toBeLessThan(1);
  });

  it('one fan cools both: it turns while either is warm', async () => {
    const fanned = await standing(
      { path: ['parts', 21], value: { id: 'heat-fan', part: 'fan-24-40', role: 'hotend' } },
      { path: ['harness', 'heat-fan'], value: { leads: { supply: 'FAN-C.1', control: 'FAN-C.2' } } },
    );
    const person = await personAt(fanned.facts, fanned.image, []);
    expect(person.bench.view().fans['heat-fan']).toBe(0);
    await person.ask('M109 T1 S80');
    person.bench.advance(1);
    expect(person.bench.view().fans['heat-fan']).toBeGreaterThan(0.5);
    expect(person.bench.view().temperatureC.hotend).toBeLessThan(30);
  });
});
