import fc from 'fast-check';
import { settingOfFigure } from '../src/calibration/leftAside';
import { describe, expect, it } from 'vitest';
import type { Measure } from '../src/bringup/procedure';
import type { Chosen } from '../src/calibration/calibrationTool';
import { strandsOf } from '../src/calibration/feel';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { derive } from '../src/settings/derive';
import { carriedOut, toolFor } from './fixtures/atTheMachine';
import { demoMachine, factsOf, own } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const ploverWith = (...edits: Edit[]): Facts => factsOf(applyEdits(plover.machine, edits));
const numberOf = (facts: Facts, key: string) => Number(derive(facts).get(key)?.value);

describe('steps of the extruder', () => {
  const HAD = 330;
  const tool = toolFor(plover, 'extruder-steps');
  /** A drive that feeds `bite` of what its steps ask for; each feed by `slips`, too. */
  function drive(bite: number, slips: (nth: number) => number = () => 1) {
    let steps = HAD;
    let asked = 0;
    let feeds = 0;
    const sent: string[] = [];
    return {
      steps: () => steps,
      sent,
      board(line: string): string[] {
        sent.push(line);
        if (line === 'M503') return [`setting M92 X80 Y80 Z400 E${HAD}`, 'done'];
        if (line.startsWith('M92 E')) steps = Number(line.slice(5));
        if (line.startsWith('G1 E')) {
          asked = Number(/E([\d.]+)/.exec(line)?.[1]) * (steps / HAD) * bite * slips(feeds);
          feeds += 1;
        }
        return ['done'];
      },
      reads: ({ about }: Measure) => (about === 'filament mark' ? 121 : 121 - asked),
    };
  }

  it('any bite up to a quarter off is found within 1 %, and the board has its old steps until it is told', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.81, max: 1.19, noNaN: true }), (bite) => {
        const at = drive(bite);
        const { result } = carriedOut(tool.run({ askedMm: 90 }), at);
        const value = result.figures[0]?.value ?? NaN;
        expect(Math.abs((value * bite) / HAD - 1)).toBeLessThan(0.0101);
        expect(result.values).toMatchObject([{ key: 'steps.e', value }]);
        expect(result.lines).toEqual([`M92 E${value}`]);
        expect(at.steps()).toBe(HAD);
        if (value !== HAD) expect(at.sent).toContain(`M92 E${value}`);
        expect(at.sent).toContain('G1 E90 F80');
      }),
    );
  });

  it('that agree at once stay, and are not called changed', () => {
    const { result } = carriedOut(tool.run({}), drive(1));
    expect(result.words).toMatch(/The 330 steps\/mm stay/);
    const more = carriedOut(tool.run({}), drive(0.9)).result.words;
    expect(more).toMatch(/^366\.67 steps\/mm .*It had 330: \+11\.1 %/);
  });

  it.each([
    ['slips ever more', drive(1, (nth) => 1.05 - nth * 0.08), 4],
    ['is off by more than half', drive(0.5), 4],
  ])('a drive that %s is poor, and the board has its steps again', (_, at, runs) => {
    const { result } = carriedOut(tool.run({}), at);
    expect(result).toMatchObject({ outcome: 'poor', values: [] });
    expect(result.evidence).toHaveLength(runs);
    expect(result.words).toContain(`The board has its ${HAD} steps/mm again`);
    expect(at.steps()).toBe(HAD);
    expect(result.lines).toEqual([]);
  });

  it('asks for the mark above what it feeds, however low it was chosen', () => {
    const marked = (chosen: Chosen) => carriedOut(tool.run(chosen), { board: drive(1).board }).measures[0];
    expect(marked({ askedMm: 150, markMm: 120 })).toMatchObject({ near: 160, range: [151, 500] });
    expect(marked({ askedMm: 100, markMm: 120 })).toMatchObject({ near: 120, range: [101, 500] });
  });

  it('nothing fed ends it; so does giving up in the second round, with the old steps back', () => {
    const none = carriedOut(tool.run({}), drive(0)).result;
    expect(none).toMatchObject({ outcome: 'ended', values: [] });
    expect(none.words).toMatch(/nothing was fed/);
    const at = drive(0.9);
    let nth = 0;
    const left = carriedOut(tool.run({}), { ...at, reads: (asked) => (nth++ < 2 ? at.reads(asked) : undefined) }); // prettier-ignore
    expect(left.result).toMatchObject({ outcome: 'ended', lines: [] });
    expect(at.steps()).toBe(HAD);
  });

  it('a stop in the middle: what was tried may be left, and that is said', () => {
    const at = drive(0.8);
    let stopped = false;
    const asleep = (line: string) => (stopped && line.startsWith('M92') ? ['error: asleep since the stop; send wake, then home'] : undefined);
    const { result } = carriedOut(tool.run({}), {
      ...at,
      board: (line) => {
        stopped ||= line.startsWith('G1 E') && at.steps() !== HAD;
        return stopped && line.startsWith('G1 E') ? ['stopped: asked by the host'] : (asleep(line) ?? at.board(line));
      },
    });
    expect(at.steps()).not.toBe(HAD);
    expect(result.words).toMatch(/asked by the host\. Nothing was set for good: .* gone at power-off/);
    const woken = carriedOut(tool.run({}), { board: (line) => (line.startsWith('M109') ? ['error: asleep since the stop; send wake, then home'] : ['done']) });
    expect(woken.result.words).toMatch(/may still be on the board/);
  }); // prettier-ignore

  it('feeds nothing into a cold hot end', () => {
    const { sent, result } = carriedOut(tool.run({}), { board: (line) => (line.startsWith('M109') ? ['error: sensor'] : ['done']) }); // prettier-ignore
    expect(sent).toEqual(['M109 S210']);
    expect(result.outcome).toBe('ended');
  });
});

describe('current of a motor', () => {
  const now = numberOf(plover, 'current.x');
  function measured(off: number | undefined, warmth: string, driver = 'well', degrees = 60, facts = plover) {
    return carriedOut(toolFor(facts, 'current-x').run({ rounds: 3, speed: 100 }), {
      board: (line) =>
        line === 'state'
          ? [`driver axis=y state=hot degrees=150`, `driver axis=x state=${driver} degrees=${degrees}`, 'done']
          : line === 'G28 X'
            ? [`home axis=x${off === undefined ? '' : ` off=${off}`}`, 'done']
            : ['done'],
      eyes: () => warmth,
    });
  } // prettier-ignore

  it.each([
    [0.05, 'cool', 'well', 60, 'found', 1, /are right: no step is lost, and it stays cool/],
    [-0.12, 'warm', 'well', 110, 'found', 1, /are right/],
    [0.05, 'hot', 'well', 60, 'found', 0.85, /loses no step and is hot/],
    [0.05, 'warm', 'hot', 60, 'found', 0.85, /loses no step and is hot/],
    [0.05, 'warm', 'well', 111, 'found', 0.85, /loses no step and is hot/],
    [0.4, 'warm', 'well', 60, 'found', 1.15, /^It lost 0\.40 mm of steps: .*third more/],
    [-0.4, 'hot', 'well', 60, 'found', 1.15, /lost 0\.40 mm/],
  ])('off by %d mm, %s, driver %s at %i °C: %s', (off, warmth, driver, degrees, outcome, share, words) => {
    const { result } = measured(off, warmth, driver, degrees);
    expect(result.words).toMatch(words);
    expect(result.outcome).toBe(outcome);
    const value = Number((now * share).toFixed(2));
    expect(result.values).toMatchObject([{ key: 'current.x', value }]);
    expect(result.lines).toEqual([`current x=${value}`]);
    expect(result.figures[0]?.value).toBeCloseTo(Math.abs(off), 3);
    expect(result.causes !== undefined).toBe(share > 1);
  });

  it('is judged by what the running board has, whatever the file says', () => {
    const { result } = carriedOut(toolFor(plover, 'current-x').run({}), {
      board: (line) => (line === 'M503' ? ['setting current x=0.40 y=0.8 z=0.8', 'done'] : line === 'G28 X' ? ['home axis=x off=0', 'done'] : ['done']),
      eyes: () => 'warm',
    });
    expect(now).not.toBe(0.4);
    expect(result.words).toMatch(/^0\.4 A are right/);
    expect(result.values).toMatchObject([{ key: 'current.x', value: 0.4 }]);
  }); // prettier-ignore

  it('is never asked for more than motor and driver may have', () => {
    const full = ploverWith(own('current.x', 1.08));
    const most = carriedOut(toolFor(full, 'current-x').run({}), { board: (line) => (line === 'G28 X' ? ['home axis=x off=1', 'done'] : ['done']), eyes: () => 'cool' }).result; // prettier-ignore
    const limit = Number(/at most ([\d.]+) A/.exec(most.evidence.join(' '))?.[1]);
    const at = measured(1, 'cool', 'well', 60, ploverWith(own('current.x', limit)));
    expect(at.result).toMatchObject({ outcome: 'poor', values: [], lines: [] });
    expect(at.result.words).toMatch(/all this motor and driver may have/);
    expect(at.result.remedy?.edits).toMatchObject([
      { path: ['settings', 'torque.x'], value: { value: 'torque' } },
    ]);
    const forced = measured(
      1,
      'cool',
      'well',
      60,
      ploverWith(own('current.x', limit), own('torque.x', 'torque')),
    );
    expect(forced.result).toMatchObject({ outcome: 'poor' });
    expect(forced.result.remedy).toBeUndefined();
    const just = measured(1, 'cool', 'well', 60, ploverWith(own('current.x', limit - 0.01)));
    expect(just.result.values[0]?.value).toBe(limit);
  });

  it('of two motors on one driver both may have their share, as far as the module stands it as it is cooled', () => {
    const bittern = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), edits));
    const lost = (facts: Facts) =>
      carriedOut(toolFor(facts, 'current-z').run({ rounds: 2 }), {
        board: (line) => (line === 'G28 Z' ? ['home axis=z off=0.4', 'done'] : ['done']),
        eyes: () => 'cool',
      }).result;
    const had = numberOf(bittern(), 'current.z');
    const more = lost(bittern());
    expect(more.values).toMatchObject([{ key: 'current.z', value: Number((had * 1.15).toFixed(2)) }]);
    expect(more.evidence).toContainEqual(
      expect.stringMatching(/at most 2\.16 A for its 2 motors and driver/),
    );
    const all = lost(bittern(own('current.z', 2.16)));
    expect(all.words).toMatch(/all its 2 motors and driver may have/);
    const driver = bittern().parts.findIndex(({ id }) => id === 'z-driver');
    const bare = lost(bittern({ path: ['parts', driver, 'cooling'], value: 'bare' }, own('current.z', 1.2)));
    const stands = bittern().parts[driver]?.type;
    expect(bare.values[0]?.value).toBe(
      stands?.kind === 'driver' ? Math.min(1.38, stands.max_bare_a ?? stands.max_a) : 0,
    );
  });

  it('an image that tells nothing of homing measures nothing', () => {
    expect(measured(undefined, 'cool').result).toMatchObject({ outcome: 'ended', values: [] });
  });

  it('goes to and fro as often and as fast as was chosen, within the travel, lifted first', () => {
    const { sent } = measured(0, 'cool');
    const moves = sent.filter((line) => /^G1 X/.test(line));
    expect(moves).toEqual(Array.from({ length: 3 }, () => ['G1 X211.8 F6000', 'G1 X18.2 F6000']).flat());
    expect(sent.indexOf('G1 Z10 F600')).toBeLessThan(sent.indexOf(moves[0] ?? ''));
    expect(carriedOut(toolFor(plover, 'current-z').run({ rounds: 2 }), { board: () => ['done'] }).sent).not.toContain('G1 Z10 F600'); // prettier-ignore
  });
});

describe('current of the extruder', () => {
  const now = numberOf(plover, 'current.e');
  const fed = (heard: string | undefined, warmth: string | undefined) =>
    carriedOut(toolFor(plover, 'current-e').run({ rounds: 3, speed: 4, hotendC: 205 }), {
      board: (line) => (line === 'state' ? ['driver axis=e state=well degrees=60', 'done'] : ['done']),
      eyes: ({ about }) => (about === 'extruder feeds' ? heard : warmth),
    });

  it.each([
    ['even', 'warm', 1, /are right/],
    ['even', 'hot', 0.85, /loses no step and is hot/],
    ['clicks', 'cool', 1.15, /^It jumped back: /],
  ])('it feeds %s and gets %s', (heard, warmth, share, words) => {
    const { result, sent } = fed(heard, warmth);
    expect(result.words).toMatch(words);
    expect(result.values).toMatchObject([{ key: 'current.e', value: Number((now * share).toFixed(2)) }]);
    expect(result.causes?.length).toBe(heard === 'clicks' ? 3 : undefined);
    expect(sent[0]).toBe('M109 S205');
    expect(sent.filter((line) => line === 'G1 E10 F240')).toHaveLength(3);
  });

  it('who gives up has measured nothing, and a cold hot end is fed nothing', () => {
    expect(fed(undefined, 'warm').result).toMatchObject({ outcome: 'ended', values: [] });
    expect(fed('even', undefined).result).toMatchObject({ outcome: 'ended', values: [] });
    const cold = carriedOut(toolFor(plover, 'current-e').run({}), { board: (line) => (line.startsWith('M109') ? ['stopped: guard'] : ['done']) }); // prettier-ignore
    expect(cold.sent).toHaveLength(1);
  });
});

describe('the first layer', () => {
  const tool = toolFor(plover, 'first-layer');
  /** Strands as they lie when the nozzle is `high` too far up at no nudge. */
  function printing(high: number, begins = 0) {
    let nudge = begins;
    const nudges: number[] = [];
    return {
      nudges,
      board(line: string): string[] {
        if (line === 'M503')
          return [`setting nudge z=${begins}`, 'setting offset x=-38 y=-9 z=-2.05', 'done'];
        if (line.startsWith('nudge z=')) nudges.push((nudge = Number(line.slice(8))));
        return ['done'];
      },
      eyes: () => strandsOf(0.2 + high + nudge, 0.2),
    };
  }

  it('ends where strands merge twice, and the offset takes it over', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.25, max: 0.4, noNaN: true }).filter((high) => Math.abs(high - 0.26) > 0.03),
        (high) => {
          const at = printing(high);
          const { result, sent } = carriedOut(tool.run({}), at);
          // Fourteen strips of hundredths reach only so far.
          expect(result.outcome).toBe(high > 0.24 ? 'poor' : 'found');
          if (result.outcome !== 'found') return;
          const nudge = result.figures[0]?.value ?? NaN;
          expect(strandsOf(0.2 + high + nudge, 0.2)).toBe('merge');
          expect(result.values.map(({ key, value }) => [key, value])).toEqual([
            ['probe.offset.z', Number((-2.05 + nudge).toFixed(3))],
            ['nudge.start', 0],
          ]);
          expect(result.lines).toEqual(['nudge z=0', `offset z=${Number((-2.05 + nudge).toFixed(3))}`]);
          expect(at.nudges.pop()).toBe(0);
          at.nudges.forEach((one, index) => expect(Math.abs(one - (at.nudges[index - 1] ?? one))).toBeLessThanOrEqual(0.0501)); // prettier-ignore
          expect(sent.filter((line) => line.includes('E')).length).toBeGreaterThan(10);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('kept as a nudge, the offset stays', () => {
    const { result } = carriedOut(tool.run({ keep: 'nudge' }), printing(0.06));
    expect(result.values.map(({ key }) => key)).toEqual(['nudge.start']);
    expect(result.figures.map(({ id }) => settingOfFigure(id))).toEqual(['nudge.start']);
    expect(result.lines).toEqual([`nudge z=${result.values[0]?.value}`]);
    expect(result.words).toMatch(/The nudge is to keep it/);
  });

  it('right at once, the offset is said to stay', () => {
    expect(carriedOut(tool.run({}), printing(0)).result.words).toMatch(/The offset of −2\.05 mm stays/);
  });

  it.each([
    ['given up', undefined, 'ended'],
    ['never even', 'apart', 'poor'],
    ['ever scraped', 'scraped', 'ended'],
  ])('%s: nothing is set, and the nudge is what it was', (_, seen, outcome) => {
    const at = printing(0, 0.03);
    const { result } = carriedOut(tool.run({}), { ...at, eyes: () => seen });
    expect(result).toMatchObject({ outcome, values: [] });
    expect(result.lines).toEqual([]);
    expect(at.nudges.at(-1)).toBe(0.03);
  });

  it('strips stay on the plate, side by side, each as long as it is', () => {
    const { sent } = carriedOut(tool.run({}), { board: () => ['done'], eyes: () => 'apart' });
    const at = sent.flatMap((line) => [.../X(-?[\d.]+) Y(-?[\d.]+)/.exec(line)?.slice(1).map(Number) ?? []].length ? [/X(-?[\d.]+) Y(-?[\d.]+)/.exec(line)!.slice(1).map(Number)] : []); // prettier-ignore
    const { x, y } = plover.machine.frame.bed_mm;
    for (const [across = NaN, back = NaN] of at) {
      expect(across).toBeGreaterThanOrEqual(x[0] + 5);
      expect(across).toBeLessThanOrEqual(x[1] - 5);
      expect(back).toBeGreaterThanOrEqual(y[0] + 5);
      expect(back).toBeLessThanOrEqual(y[1] - 5);
    }
    // No place is printed on twice.
    const travels = sent.filter((line) => / F6000$/.test(line));
    expect(new Set(travels).size).toBe(travels.length);
    expect(travels.length).toBe(14);
    // Filament as thick as the line: 40 mm of 0.45 × 0.2 mm are 1.497 mm of 1.75 mm filament.
    const first = sent.filter((line) => / E/.test(line) && line.startsWith('G1'))[0];
    expect(Number(/E([\d.]+)/.exec(first ?? '')?.[1])).toBeCloseTo((40 * 0.45 * 0.2) / (Math.PI * 0.875 ** 2), 4); // prettier-ignore
  });
});
