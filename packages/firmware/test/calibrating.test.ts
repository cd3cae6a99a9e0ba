import { reallyOf } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { calibrationTools } from '@jolly/core/calibration/calibrationTools';
import type { Chosen, Found } from '@jolly/core/calibration/calibrationTool';
import type { Edit } from '@jolly/core/machine/edit';
import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { certain } from '@jolly/core/tree/certain';
import { beforeAll, describe, expect, it } from 'vitest';
import { buildFor, demoFacts, own } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { personAt } from './fixtures/person';

const compiler = compilerForTests();

interface Standing {
  facts: Facts;
  image: Uint8Array;
}
async function standing(id: string, ...edits: Edit[]): Promise<Standing> {
  const facts = await demoFacts(id, ...edits);
  const outcome = await buildFor(facts, compiler);
  if ('failed' in outcome) throw new Error(outcome.failed.message);
  return { facts, image: outcome.image };
}
let plover: Standing;
beforeAll(async () => {
  plover = await standing('plover');
});

/** Every tool that works on Plover, but those that only ask. */
function calibrationIds(): string[] {
  return ['probe-mount', 'current-x', 'current-z', 'probe-repeat', 'probe-place', 'pid-hotend', 'pid-bed', 'tram', 'z-offset', 'extruder-steps', 'first-layer', 'lead', 'corners', 'centre', 'cube']; // prettier-ignore
}

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

  it.each([
    ['hotend', [7, 1.5, 0]],
    ['bed', [8, 0.9, 0]],
  ] as const)('a tuned %s runs over less than before', async (body, [p, i, d]) => {
    const rough = await standing('plover', ...['p', 'i', 'd'].map((letter, at) => own(`pid.${body}.${letter}`, [p, i, d][at])));
    const { found } = await measured(rough, `pid-${body}`);
    const { picture } = found;
    if (picture?.kind !== 'warming') throw new Error(found.words);
    const over = (curve: readonly { c: number }[]) => Math.max(...curve.map(({ c }) => c)) - picture.targetC;
    expect(over(picture.now)).toBeLessThan(over(certain(picture.before, 'before')) - 1);
    expect(found.values.map(({ key }) => key)).toEqual(['p', 'i', 'd'].map((letter) => `pid.${body}.${letter}`));
    expect(found.words).toMatch(/guard/);
    // What the step says of the heater is what the bench has it made of.
    const heater = plover.facts.parts.find(({ type, role }) => type.kind === 'heater' && role === body)?.type;
    if (heater?.kind !== 'heater' || !heater.body) throw new Error('no curve');
    expect(figure(found, `gain-${body}`) / heater.body.gain_c).toBeCloseTo(1, 0);
  }); // prettier-ignore

  it('values that do better than the self-tune stay, and the board has them again', async () => {
    const { found, person } = await measured(plover, 'pid-hotend');
    expect(found.values).toEqual([]);
    expect(found.words).toMatch(/old values run over less/);
    expect(found.lines).toEqual([]);
    const had = derive(plover.facts).get('pid.hotend.p')?.value;
    expect((await person.ask('M503')).lines.join('\n')).toContain(`setting M301 P${Number(had).toFixed(3)}`);
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

describe('what is measured is set when a person says so', () => {
  const rough = [own('pid.hotend.p', 12), own('nudge.on', true), own('nudge.start', -0.04)];
  it.each(['current-x', 'probe-repeat', 'probe-place', 'pid-hotend', 'tram', 'z-offset', 'extruder-steps', 'first-layer'])('%s leaves the board what it had', async (id) => {
    const nudged = await standing('plover', ...rough);
    const person = await personAt(nudged.facts, nudged.image, []);
    const kept = async () => (await person.ask('M503')).lines.filter((line) => line.startsWith('setting '));
    const before = await kept();
    const found = await person.measure(toolOf(nudged.facts, id));
    expect(found.outcome, found.words).toBe('found');
    expect(before.length).toBeGreaterThan(5);
    expect(await kept()).toEqual(before);
  }); // prettier-ignore
});

describe('what is not measured sets nothing', () => {
  it('a sensor that jumps, by name and with the heat off', async () => {
    const { found, person } = await measured(plover, 'pid-hotend', {}, [{ lay: 'sensor-jumps', on: true }]);
    expect(found).toMatchObject({ outcome: 'ended', values: [], edits: [], lines: [] });
    person.bench.advance(1);
    expect(person.bench.truth().duty.hotend).toBe(0);
  });

  it.each(['probe-repeat', 'z-offset', 'tram', 'map'])('%s, when the probe does not trigger', async (id) => {
    const { found } = await measured(plover, id, {}, [{ lay: 'probe-not-triggering', on: true }]);
    expect(found).toMatchObject({ outcome: 'ended', values: [], edits: [], lines: [] });
    expect(found.words).toMatch(/homing did not meet the plate/);
  });

  it.each(calibrationIds())('%s, when the person gives up at once', async (id) => {
    const person = await personAt(plover.facts, plover.image, []);
    person.giveUp();
    const found = await person.measure(toolOf(plover.facts, id));
    expect(found.values).toEqual([]);
    expect(found.edits).toEqual([]);
  });

  it('what an image cannot do is said before it begins', async () => {
    const facts = await demoFacts(
      'plover',
      own('map.on', false),
      own('tune.on', false),
      own('tram.on', false),
    );
    for (const id of ['map', 'pid-hotend']) expect(toolOf(facts, id).missing).toMatch(/off on this machine/);
    // Without its corner helper the screws are felt by hand, on any image.
    expect(toolOf(facts, 'tram').missing).toBeUndefined();
    expect(toolOf(facts, 'tram').after).toEqual(['home']);
  });

  it('a plate without a probe is levelled by a shim at each corner', async () => {
    const dunlin = await standing('dunlin');
    const { found, person } = await measured(dunlin, 'tram', { hotendC: 0, bedC: 0 });
    expect(found.outcome, found.words).toBe('found');
    const { x, y } = dunlin.facts.machine.frame.bed_mm;
    const at = [[30, 30], [x[1] - 30, 30], [x[1] - 30, y[1] - 30], [30, y[1] - 30]].map(([across = 0, back = 0]) => certain(person.bench.plateAt(across, back), 'plate')); // prettier-ignore
    expect(Math.max(...at) - Math.min(...at)).toBeLessThan(0.25);
    expect(person.bench.truth().nozzleInPlateMm).toBe(0);
  });
});

describe('a nudge that is in use', () => {
  it.each([
    ['plover', 'z-offset', 'found'],
    ['plover', 'tram', 'found'],
    ['dunlin', 'z-switch', undefined],
  ])('%s: is there again after %s, and not in what was measured', async (machine, id, outcome) => {
    const nudged = await standing(machine, own('nudge.on', true), own('nudge.start', -0.07));
    const { found, person } = await measured(nudged, id, { hotendC: 0, bedC: 0 });
    if (outcome) expect(found.outcome, found.words).toBe(outcome);
    expect((await person.ask('M503')).lines).toContain('setting nudge z=-0.070');
    expect(person.bench.truth().nozzleInPlateMm).toBe(0);
    if (id !== 'z-offset') return;
    const { z } = certain(really(nudged.facts).probe, 'a probe');
    expect(Math.abs(figure(found, 'offset-z') - z)).toBeLessThanOrEqual(0.025);
  });
});

describe('machines of other kinds', () => {
  it('a switch without a probe is judged by homing it again and again', async () => {
    const dunlin = await standing('dunlin');
    const { found } = await measured(dunlin, 'probe-repeat', { touches: 5 });
    expect(found.outcome).toBe('found');
    expect(found.words).toMatch(/^The switch/);
    const ids = calibrationTools(dunlin.facts, derive(dunlin.facts)).map(({ id }) => id);
    expect(ids).not.toContain('z-offset');
  });

  it('a plate whose screws nobody described is trammed by those that were chosen, and they are kept', async () => {
    const bare = await standing('plover', { path: ['frame', 'screws'] });
    const { found } = await measured(bare, 'tram', { screws: 'two-back', insetMm: 25, pitchMm: 0.5 });
    expect(found.edits[0]?.path).toEqual(['frame', 'screws']);
    expect(figure(found, 'screws-off')).toBeLessThanOrEqual(0.1);
  });

  it('without a probe the Z switch is measured by the shim, and nothing is set', async () => {
    const dunlin = await standing('dunlin');
    const { found, person } = await measured(dunlin, 'z-switch');
    const { x, y } = dunlin.facts.machine.frame.bed_mm;
    const plate = certain(person.bench.plateAt((x[0] + x[1]) / 2, (y[0] + y[1]) / 2), 'plate');
    expect(figure(found, 'switch-off')).toBeCloseTo(plate, 1);
    expect(found).toMatchObject({ values: [], edits: [], lines: [] });
  });

  it('a map by shim, point by point', async () => {
    const edits = [own('map.shim', true), own('map.columns', 2), own('map.rows', 2), own('map.x.max', 160), own('map.y.max', 160)];
    const dunlin = await standing('dunlin', ...edits);
    const { found, person } = await measured(dunlin, 'map', { shimMm: 0.1 });
    const map = certain(found.map, found.words);
    const off = map.ys.flatMap((y, row) => map.xs.map((x, column) => map.z[row]![column]! - certain(person.bench.plateAt(x, y), 'plate')));
    for (const one of off) expect(Math.abs(one)).toBeLessThan(0.03);
  }); // prettier-ignore
});
