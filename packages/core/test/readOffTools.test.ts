import { describe, expect, it } from 'vitest';
import { isPattern } from '../src/calibration/patternTools';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { derive } from '../src/settings/derive';
import { carriedOut, placeKeeper, toolFor } from './fixtures/atTheMachine';
import { demoMachine, factsOf, own } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';

const plover = factsOf(demoMachine('plover'));
const ploverWith = (...edits: Edit[]): Facts => factsOf(applyEdits(plover.machine, edits));
const numberOf = (facts: Facts, key: string) => Number(derive(facts).get(key)?.value);

describe('PID', () => {
  /** A heater on paper: it goes straight up, runs over by what its PID makes it, and comes back. */
  function heater({ over, room = 22, pace = 4, jumpsAt = Infinity, reaches = true }: { over: (p: number) => number; room?: number; pace?: number; jumpsAt?: number; reaches?: boolean }) {
    let s = 0;
    let c = room;
    let target = 0;
    let settles = false;
    let p = 18;
    const sent: string[] = [];
    const pass = (seconds: number) => {
      s += seconds;
      if (target === 0) c = Math.max(room, c - seconds * 3);
      else if (settles) c = target + (c - target) * Math.exp(-seconds / 10);
      else c = Math.min(reaches ? target + over(p) : target - 20, c + seconds * pace);
      settles ||= target > 0 && c >= target + over(p) - 1e-9;
    };
    return {
      sent,
      p: () => p,
      target: () => target,
      nowS: () => s,
      board(line: string): string[] {
        sent.push(line);
        if (line === 'M503') return [`setting M301 P${p} I1.1 D70`, 'done'];
        if (line.startsWith('M301 ')) p = Number(/P([\d.]+)/.exec(line)?.[1]);
        if (line.startsWith('M104 S')) [target, settles] = [Number(line.slice(6)), false];
        if (line.startsWith('G4 S')) pass(Number(line.slice(4)));
        if (line.startsWith('tune ')) {
          p = 25;
          return ['tuned p=25 i=2 d=80', 'done'];
        }
        if (line === 'M105')
          return [`heat body=hotend now=${(s > jumpsAt ? c + 60 : c).toFixed(2)} target=${target} duty=${target > 0 && c < target - 8 ? 1 : 0.3}`, 'done'];
        return ['done'];
      },
    };
  } // prettier-ignore
  const tuned = (at: ReturnType<typeof heater>, chosen = { targetC: 200 }, facts = plover) =>
    carriedOut(toolFor(facts, 'pid-hotend').run(chosen), at);

  it('that runs over less is taken, with what it was before', () => {
    const at = heater({ over: (p) => (p === 25 ? 1.5 : 6) });
    const { result } = tuned(at);
    expect(result.outcome).toBe('found');
    expect(result.words).toMatch(/it ran over by 1\.\d °C; before, by [56]\.\d °C/);
    expect(result.values.map(({ key, value }) => [key, value])).toEqual([
      ['pid.hotend.p', 25],
      ['pid.hotend.i', 2],
      ['pid.hotend.d', 80],
    ]);
    expect(result.lines).toEqual(['M301 P25 I2 D80']);
    expect(at.target()).toBe(0);
    expect(at.sent).toContain('tune h=0 c=200');
    expect(result.picture?.kind === 'warming' && result.picture.before?.length).toBeGreaterThan(20);
  });

  it('that runs over more is not: the board has its old values again at once', () => {
    const at = heater({ over: (p) => (p === 25 ? 3.9 : 1) });
    const { result } = tuned(at);
    expect(result).toMatchObject({ outcome: 'found', values: [], lines: [] });
    expect(result.words).toMatch(/old values run over less/);
    expect(at.p()).toBe(18);
    expect(result.figures.find(({ id }) => id === 'p-hotend')?.value).toBe(18);
  });

  it('a heater too strong for it is poor, and its power is named', () => {
    const { result } = tuned(heater({ over: () => 9 }));
    expect(result.outcome).toBe('poor');
    // 30 % hold it: twice that is enough, and is shown before it is set.
    expect(result.words).toMatch(/strong for its mass\. 60 % of its power hold 200 °C/);
    expect(result.remedy?.edits).toMatchObject([
      { path: ['settings', 'power.hotend'], value: { value: 60 } },
    ]);
    expect(result.evidence).toContain('held by 30 % of its power');
    const capped = tuned(heater({ over: () => 9 }), { targetC: 200 }, ploverWith(own('power.hotend', 60)));
    expect(capped.result.words).toMatch(/capped as low as 200 °C allow/);
    expect(capped.result.remedy).toBeUndefined();
  });

  it.each([
    ['a sensor that jumps', heater({ over: () => 1, jumpsAt: 20 }), /jumps from \d+ to \d+ °C/],
    ['one that never arrives', heater({ over: () => 1, reaches: false }), /did not reach 200 °C in an hour/],
  ])('%s ends it with the heat off and the old values', (_, at, words) => {
    const { result } = tuned(at);
    expect(result).toMatchObject({ outcome: 'ended', values: [], lines: [], figures: [] });
    expect(result.words).toMatch(words);
    expect(at.target()).toBe(0);
    expect(at.p()).toBe(18);
  });

  it('is compared from the same warmth: what is hot cools first', () => {
    const at = heater({ over: () => 1 });
    const { result } = tuned(at);
    const [before, after] = /from (\d+) °C before and (\d+) °C after/.exec(result.evidence[1] ?? '')?.slice(1).map(Number) ?? []; // prettier-ignore
    expect(Math.abs((before ?? NaN) - (after ?? NaN))).toBeLessThanOrEqual(15);
    expect(after).toBeLessThanOrEqual(140);
  });

  it.each([
    ['cold', 22, 3],
    ['a little colder than it is compared from', 137, 3],
    ['as warm as it is compared from', 138.5, 2],
  ])('begun %s, at %d °C, it is heated %i times', (_, room, times) => {
    const at = heater({ over: () => 1, room });
    tuned(at);
    expect(at.sent.filter((line) => line === 'M104 S200')).toHaveLength(times);
  });

  it('without PID says why not; with its guard off, that nothing stops it', () => {
    expect(toolFor(ploverWith(own('control.hotend', 'on-off')), 'pid-hotend').missing ?? '').toMatch(/without PID|no /); // prettier-ignore
    const words = tuned(heater({ over: () => 1 }), { targetC: 200 }, ploverWith(own('guard.hotend', false))).result.words; // prettier-ignore
    expect(words).toMatch(/Its guard is off/);
  });
});

describe('patterns and sizes, read off by a person', () => {
  const read = (
    id: string,
    facts: Facts,
    eyes: Record<string, string>,
    reads: Record<string, number>,
    chosen = {},
  ) =>
    carriedOut(toolFor(facts, id).run(chosen), {
      board: placeKeeper().hear as never as (line: string) => string[],
      eyes: ({ about }) => eyes[about],
      reads: ({ about }) => reads[about],
    }).result;

  it('the band that was even is the lead; bands grow evenly from none', () => {
    const tool = toolFor(plover, 'lead');
    const bands = isPattern(tool) ? tool.pattern.bands : [];
    expect(bands.map(({ before }) => before)).toEqual([0, 0.02, 0.04, 0.06, 0.08, 0.1, 0.12, 0.14].map((lead) => `lead t=${lead}`)); // prettier-ignore
    expect(bands.every(({ slow, fast }) => slow === 1200 && fast === 4800)).toBe(true);
    const longer = toolFor(ploverWith(own('lead.time', 0.1)), 'lead');
    expect(isPattern(longer) && longer.pattern.bands.slice(1, 4).map(({ label }) => label)).toEqual(['lead 0.029 s', 'lead 0.057 s', 'lead 0.086 s']); // prettier-ignore
    const found = read('lead', plover, {}, { band: 4 });
    expect(found).toMatchObject({ lines: ['lead t=0.06'], values: [{ key: 'lead.time', value: 0.06 }] });
    expect(read('lead', plover, {}, {})).toMatchObject({ outcome: 'ended', values: [] });
  });

  it('the last band that did not ring is the corner, as a jolt or as a deviation', () => {
    const byJolt = ploverWith(own('corner.by', 'jolt'), own('corner.jolt.x', 8), own('corner.jolt.y', 10));
    const found = read('corners', byJolt, { ringing: 'some' }, { band: 6 });
    expect(found.values.map(({ key, value }) => [key, value])).toEqual([['corner.jolt.x', 6], ['corner.jolt.y', 6]]); // prettier-ignore
    const byDeviation = read('corners', plover, { ringing: 'some' }, { band: 8 });
    expect(byDeviation.values).toMatchObject([{ key: 'corner.deviation' }]);
    expect(byDeviation.values[0]?.value).toBeCloseTo(numberOf(plover, 'corner.deviation'), 3);
    const half = read('corners', plover, { ringing: 'some' }, { band: 4 });
    expect(half.values[0]?.value).toBeCloseTo(numberOf(plover, 'corner.deviation') / 4, 3);
    expect(read('corners', plover, { ringing: 'none' }, {})).toMatchObject({ outcome: 'found', values: [] });
  });

  it('a second extruder has a pattern and a lead of its own', () => {
    const two = factsOf(applyEdits(demoMachine('bittern'), [...TWO_EXTRUDERS, own('lead.on', true)]));
    const tool = toolFor(two, 'second-lead');
    const lines = isPattern(tool) ? tool.pattern.gcode().split('\n') : [];
    expect(lines.filter((line) => /^T[01]$/.test(line))).toEqual(['T1', 'T0']);
    expect(lines.some((line) => line.startsWith('second t='))).toBe(true);
    const at = (id: string) => carriedOut(toolFor(two, id).run({}), { board: () => ['done'], reads: () => 4 }).result; // prettier-ignore
    const found = at('second-lead');
    expect(found.values).toMatchObject([{ key: 'lead.time.second-e', value: 0.06 }]);
    expect(found.lines).toEqual(['second t=0.06']);
    expect(at('lead').lines).toEqual(['lead t=0.06']);
  });

  it('a line goes slow, fast, slow; a zigzag turns at every tooth at one speed', () => {
    const gcode = (id: string) => {
      const tool = toolFor(plover, id);
      return isPattern(tool) ? tool.pattern.gcode().split('\n') : [];
    };
    const bandOf = (lines: string[], nth: number) => {
      const from = lines.findIndex((line) => line.startsWith(`; band ${nth}:`));
      const length = lines.slice(from + 1).findIndex((line) => line.startsWith('; '));
      return lines.slice(from + 1, length < 0 ? undefined : from + 1 + length).filter((line) => / E/.test(line)); // prettier-ignore
    };
    const lead = bandOf(gcode('lead'), 2);
    expect(lead.slice(0, 3).map((line) => / X(\S+).* F(\d+)/.exec(line)?.slice(1))).toEqual([['100', '1200'], ['130', '4800'], ['145', '1200']]); // prettier-ignore
    const corner = bandOf(gcode('corners'), 2);
    expect(corner).toHaveLength(24);
    expect(new Set(corner.map((line) => / F(\d+)/.exec(line)?.[1])).size).toBe(1);
    const ys = (nth: number) =>
      bandOf(gcode('corners'), nth).map((line) => Number(/ Y(\S+)/.exec(line)?.[1]));
    expect(Math.min(...ys(3)) - Math.max(...ys(2))).toBeCloseTo(5, 6);
  });

  const margins = (left: number, right: number, front: number, back: number) => ({ 'margin left': left, 'margin right': right, 'margin front': front, 'margin back': back }); // prettier-ignore
  it.each([
    ['even', margins(100, 101, 90, 91), 'there', /middle within a millimetre/, []],
    ['the slicer’s', margins(104, 96, 90, 90), 'there', /slicer has it elsewhere/, []],
    ['the origin’s', margins(104, 96, 90, 96), 'off', /−4\.0 mm in X and \+3\.0 mm in Y/, [[-4, 226], [3, 213]]],
  ])('a print off centre that is %s', (_, reads, corner, words, moved) => {
    const found = read('centre', plover, { corner }, reads);
    expect(found.words).toMatch(words);
    expect(found.edits.map(({ value }) => value)).toEqual(moved);
    expect(found.figures[0]?.value).toBeCloseTo((reads['margin left'] - reads['margin right']) / 2, 6);
  }); // prettier-ignore

  it('the cube parts what is constant from what is in proportion, and sets nothing', () => {
    const sizes = { small: 20, large: 100 };
    let nth = 0;
    const cube = (small: number, large: number, chosen: object) => {
      nth = 0;
      return carriedOut(toolFor(plover, 'cube').run({ ...sizes, ...chosen }), { board: () => ['done'], reads: () => [small, large][nth++] }).result; // prettier-ignore
    };
    expect(cube(20.2, 100.2, { axis: 'x' }).words).toMatch(/^Line width/);
    expect(cube(19.9, 99.5, { axis: 'y' }).words).toMatch(/^Plastic shrinkage: .*y/);
    expect(cube(20.01, 100, {}).words).toMatch(/^Leave/);
    const found = cube(20.2, 100.2, { axis: 'x' });
    expect(found.figures.map(({ id, value }) => [id, value])).toEqual([['cube-x-offset', 0.2], ['cube-x-scale', 0]]); // prettier-ignore
    expect([...found.values, ...found.edits, ...found.lines]).toEqual([]);
  });

  it.each([
    ['well', {}, 2.4, 'found', 0],
    ['crooked', { 'mount upright': 'no' }, 2.4, 'poor', 1],
    ['so low that it drags', {}, 0.49, 'poor', 1],
    ['just high enough', {}, 0.5, 'found', 0],
  ])('a mount that stands %s', (_, seen, gap, outcome, causes) => {
    const looks = { 'mount upright': 'yes', 'mount free': 'yes', 'mount rigid': 'yes', ...seen };
    const found = read('probe-mount', plover, looks, { 'stowed gap': gap });
    expect(found.outcome).toBe(outcome);
    expect(found.causes ?? []).toHaveLength(causes);
    expect(found.edits).toEqual([{ path: ['probe_mount', 'stowed_mm'], value: gap }]);
  });

  it.each([
    ['plover', /drawn-in probe/, true],
    ['bittern', /before the probe would/, false],
  ])('what %s has no pin for is not asked to be drawn in', (id, words, drawnIn) => {
    const facts = factsOf(demoMachine(id));
    const looks = { 'mount upright': 'yes', 'mount free': 'yes', 'mount rigid': 'yes' };
    const { words: said, picture } = read('probe-mount', facts, looks, { 'stowed gap': 1.4 });
    expect(said).toMatch(words);
    expect(picture).toMatchObject({ kind: 'mount', drawnIn });
  });
});
