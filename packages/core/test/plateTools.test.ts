import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Question } from '../src/bringup/procedure';
import { feelOf } from '../src/calibration/feel';
import { LEVEL_MM } from '../src/calibration/tramTool';
import { applyEdits } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { carriedOut, placeKeeper, toolFor } from './fixtures/atTheMachine';
import { demoMachine, factsOf } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const dunlin = factsOf(demoMachine('dunlin'));
const cold = { hotendC: 0, bedC: 0 };

describe('the plate by its screws', () => {
  /** A plate on its screws: what it is high at each corner of the helper, turned by hands as they are told. */
  function plateOn(facts: Facts, tilt: { c: number; x: number; y: number }, hands: 'turn' | 'wrong way' | 'leave' = 'turn') {
    const { x, y } = facts.machine.frame.bed_mm;
    const corner = ['', '30 30', 'r 30', 'r r', '30 r'];
    let plane = { ...tilt };
    const height = (n: number) => {
      const [across, back] = (corner[n] ?? '').split(' ');
      // As far as Plover's probe reaches to the right, 38 mm left of the nozzle.
      const at = (which: string | undefined, [low, high]: readonly [number, number]) => (which === 'r' ? Math.min(198, high - 30) : low + 30);
      return plane.c + plane.x * at(across, x) + plane.y * at(back, y);
    };
    return {
      height,
      board: (line: string): string[] => {
        const n = Number(/^tram n=(\d)/.exec(line)?.[1] ?? NaN);
        return Number.isNaN(n) ? ['done'] : [`tram n=${n} height=${height(n)}`, 'done'];
      },
      eyes({ screws = [] }: Question) {
        if (hands === 'leave') return 'leave';
        // What three corners of a rectangle are turned by is a plane.
        const [a, b, , d] = screws;
        if (!a || !b || !d) throw new Error('no screws');
        const way = hands === 'turn' ? 1 : -1;
        const by = { x: (way * (b.up - a.up)) / (b.x - a.x), y: (way * (d.up - a.up)) / (d.y - a.y) };
        plane = { c: plane.c + way * a.up - by.x * a.x - by.y * a.y, x: plane.x + by.x, y: plane.y + by.y };
        return 'turned';
      },
    };
  } // prettier-ignore

  it('any tilt is level after one round of turns', () => {
    const slope = fc.double({ min: -0.004, max: 0.004, noNaN: true });
    fc.assert(
      fc.property(slope, slope, (x, y) => {
        const plate = plateOn(plover, { c: 0.2, x, y });
        const { result, questions } = carriedOut(toolFor(plover, 'tram').run(cold), plate);
        expect(result.outcome).toBe('found');
        expect(result.figures[0]?.value).toBeLessThanOrEqual(LEVEL_MM);
        const heights = [1, 2, 3, 4].map(plate.height);
        expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.2);
        expect(questions.length).toBeLessThanOrEqual(1);
        // No other screw to be level with would ask for less of the worst.
        const ups = questions[0]?.screws?.map(({ up }) => up) ?? [0];
        const most = Math.max(...ups.map(Math.abs));
        const least = Math.min(...ups.map((level) => Math.max(...ups.map((up) => Math.abs(up - level)))));
        expect(most).toBeLessThanOrEqual(least + 0.02 + 1e-9);
      }),
      { numRuns: 60 },
    );
  });

  it('says the way to turn as the machine has it, and leaves the file as it is', () => {
    const { result, questions } = carriedOut(toolFor(plover, 'tram').run(cold), plateOn(plover, { c: 0, x: 0.004, y: 0 })); // prettier-ignore
    // Plover's plate rises anticlockwise; it is high on the right.
    expect(questions[0]?.text).toMatch(/front right clockwise by 1 ⅛ turn \(down 0\.76 mm\)|front left anticlockwise by 1 ⅛ turn \(up 0\.76 mm\)/); // prettier-ignore
    expect(result.edits).toEqual([]);
    expect(result.evidence).toHaveLength(2);
    expect(result.words).toMatch(/within 0\.01 mm; they were 0\.76 mm apart/);
  });

  it('turned the wrong way, it ends after eight rounds and says how far off it is', () => {
    const { result, questions } = carriedOut(toolFor(plover, 'tram').run(cold), plateOn(plover, { c: 0, x: 0.001, y: 0 }, 'wrong way')); // prettier-ignore
    expect(result.outcome).toBe('poor');
    expect(questions).toHaveLength(7);
    expect(result.causes?.length).toBe(2);
  });

  it('left as it is, it is poor; a level one asks for nothing', () => {
    const left = carriedOut(toolFor(plover, 'tram').run(cold), plateOn(plover, { c: 0, x: 0.004, y: 0 }, 'leave')).result; // prettier-ignore
    expect(left).toMatchObject({ outcome: 'poor' });
    expect(left.words).toMatch(/stands 0\.76 mm off/);
    const level = carriedOut(toolFor(plover, 'tram').run(cold), plateOn(plover, { c: 3, x: 0, y: 0 }));
    expect(level.questions).toEqual([]);
    expect(level.result.words).toMatch(/level within 0\.01 mm\. What is left/);
  });

  it('screws that no file has come from what was chosen, and go into it', () => {
    const bare = factsOf(applyEdits(plover.machine, [{ path: ['frame', 'screws'] }]));
    const chosen = { ...cold, screws: 'two-back', insetMm: 10, pitchMm: 0.5, raises: 'clockwise' };
    const { result } = carriedOut(toolFor(bare, 'tram').run(chosen), plateOn(bare, { c: 0, x: 0, y: 0 }));
    expect(result.edits).toEqual([
      {
        path: ['frame', 'screws'],
        value: {
          at: [
            { id: 'front', x: 115, y: 10 },
            { id: 'back right', x: 220, y: 200 },
            { id: 'back left', x: 10, y: 200 },
          ],
          pitch_mm: 0.5,
          raises: 'clockwise',
        },
      },
    ]);
    const unknown = carriedOut(toolFor(bare, 'tram').run({ ...cold, screws: 'four' }), plateOn(bare, { c: 0, x: 0, y: 0 })); // prettier-ignore
    expect(unknown.result.edits[0]?.value).not.toHaveProperty('raises');
  });

  it('an image that tells no height ends it', () => {
    const { result } = carriedOut(toolFor(plover, 'tram').run(cold), { board: () => ['done'] });
    expect(result).toMatchObject({ outcome: 'ended', edits: [] });
    expect(result.words).toMatch(/tells no height/);
  });
});

describe('the screws by hand', () => {
  /** A plate felt by a shim: what it is high where the nozzle stands, and hands that turn as they are told. */
  function feltPlate(slope: number) {
    const place = placeKeeper();
    let by = slope;
    return {
      place,
      slope: () => by,
      board: (line: string) => place.hear(line) ?? ['done'],
      eyes({ about, screws = [] }: Question) {
        if (about === 'shim') return feelOf(place.at.z - 0.1 - by * (place.at.x - 90), 0.1);
        const [left, right] = [screws[0], screws[1]];
        if (left && right) by += (right.up - left.up) / (right.x - left.x);
        return 'turned';
      },
    };
  }

  it('a machine without a probe is trammed by a shim at each corner, never lower than it must', () => {
    const plate = feltPlate(0.003);
    const { result, sent, pictures } = carriedOut(toolFor(dunlin, 'tram').run(cold), plate);
    expect(result.outcome, result.words).toBe('found');
    expect(Math.abs(plate.slope()) * 150).toBeLessThan(0.1);
    expect(sent.some((line) => line.startsWith('tram'))).toBe(false);
    // Every way over the plate is well above it.
    let z = 10;
    for (const line of sent) {
      z = Number(/^G1 Z(-?[\d.]+)/.exec(line)?.[1] ?? z);
      if (/^G1 X/.test(line)) expect(z).toBe(5);
    }
    expect(sent.at(-1)).toBe('limits on');
    expect(pictures.filter(({ kind }) => kind === 'screws').length).toBeGreaterThanOrEqual(2);
  });

  it('one with a probe may be, too, and asks for the shim only then', () => {
    const tool = toolFor(plover, 'tram');
    expect(tool.after).toContain('probe');
    const plate = feltPlate(0);
    const { result, sent, questions } = carriedOut(tool.run({ ...cold, by: 'shim' }), plate);
    expect(result.outcome).toBe('found');
    expect(questions.every(({ about }) => about === 'shim')).toBe(true);
    expect(sent.filter((line) => /^G1 X/.test(line))).toEqual(['G1 X30 Y30 F3000', 'G1 X200 Y30 F3000', 'G1 X200 Y180 F3000', 'G1 X30 Y180 F3000']); // prettier-ignore
    expect(toolFor(dunlin, 'tram').after).not.toContain('probe');
  });

  it('given up in the middle it ends with the limit back in place', () => {
    const place = placeKeeper();
    const { result, sent } = carriedOut(toolFor(dunlin, 'tram').run(cold), { board: (line) => place.hear(line) ?? ['done'] }); // prettier-ignore
    expect(result).toMatchObject({ outcome: 'ended', edits: [] });
    expect(sent.at(-1)).toBe('limits on');
  });
});

describe('the map', () => {
  const points = (height: (x: number, y: number) => number) =>
    [20, 110, 200].flatMap((y, row) =>
      [10, 80, 150, 220].map((x, column) => `map point=${row * 4 + column + 1} of=12 x=${x} y=${y} height=${height(x, y)}`),
    ); // prettier-ignore
  const taken = (lines: string[]) =>
    carriedOut(toolFor(plover, 'map').run(cold), { board: (line) => (line === 'map take' ? [...lines, 'done'] : ['done']) }); // prettier-ignore

  it('a dish is told as it is, row by row on the way, with what a coarser grid would miss', () => {
    const { result, pictures } = taken(points((x, y) => 0.00002 * ((x - 115) ** 2 + (y - 110) ** 2)));
    expect(result.outcome).toBe('found');
    expect(result.map).toMatchObject({ xs: [10, 80, 150, 220], ys: [20, 110, 200] });
    expect(result.map?.z[0]?.[0]).toBe(0.383);
    expect(result.edits).toEqual([{ path: ['bed_map'], value: result.map }]);
    expect(result.figures[0]?.value).toBe(0.358);
    const partly = pictures.filter((picture) => picture.kind === 'map' && picture.partly);
    expect(partly.length).toBeGreaterThan(0);
  });

  it.each([
    ['a tilt of more than a map should carry', (x: number) => 0.006 * x, 'poor', /tram it first, 0\.00 mm/],
    [
      'as much that no screw would mend',
      (x: number) => 0.00012 * (x - 115) ** 2,
      'found',
      /varies by 1\.\d\d mm/,
    ],
    ['a slight tilt', (x: number) => 0.004 * x, 'found', /varies by 0\.84 mm/],
  ])('%s', (_, height, outcome, words) => {
    const { result } = taken(points(height));
    expect(result.outcome).toBe(outcome);
    expect(result.words).toMatch(words);
  });

  it('a hole sets nothing, a refusal neither', () => {
    expect(taken(points(() => 0).slice(1)).result).toMatchObject({ outcome: 'poor', edits: [] });
    const refused = taken(['error: not homed']);
    expect(refused.result).toMatchObject({ outcome: 'ended', edits: [] });
    expect(refused.sent.slice(-3)).toEqual(['G90', 'G1 Z10 F600', 'M400']);
  });

  it('by shim every point is felt, and ends with the last', () => {
    const place = placeKeeper(3);
    const told = points((x) => 0.001 * x);
    let nth = 0;
    const { result, sent } = carriedOut(toolFor(dunlin, 'map').run(cold), {
      board: (line) => {
        if (line === 'map next') place.at.z = 3;
        return line === 'map next'
          ? [told[nth++] ?? 'error: no more', 'done']
          : (place.hear(line) ?? ['done']);
      },
      eyes: () => feelOf(place.at.z, 0.1),
    });
    expect(sent.filter((line) => line === 'map next')).toHaveLength(12);
    expect(result.outcome).toBe('found');
    expect(result.map?.z[0]).toEqual([0.01, 0.08, 0.15, 0.22]);
  });
});
