import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Question } from '../src/bringup/procedure';
import { feelOf } from '../src/calibration/feel';
import { agreed } from '../src/calibration/shimRuns';
import { carriedOut, placeKeeper, toolFor } from './fixtures/atTheMachine';
import { demoMachine, factsOf } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const dunlin = factsOf(demoMachine('dunlin'));
const HAD = -2.05;

/** A board whose probe triggers with the nozzle `truly` above the plate, and hands that slide a shim. */
function shimAt(truly: number, { shimMm = 0.1, off = (): number => 0 } = {}) {
  const place = placeKeeper();
  let offset = HAD;
  let run = 0;
  return {
    offset: () => offset,
    board(line: string): readonly string[] {
      if (line === 'G28') run += 1;
      if (line === 'M503') return [`setting offset x=-38 y=-9 z=${HAD}`, 'done'];
      if (line.startsWith('offset z=')) offset = Number(line.slice('offset z='.length));
      return place.hear(line) ?? ['done'];
    },
    /** What is below the nozzle, of which the board knows the height as shown. */
    gap: () => place.at.z - (truly - offset) + off(),
    eyes({ about }: Question) {
      return about === 'shim' ? feelOf(this.gap(), shimMm) : undefined;
    },
    run: () => run,
  };
}
const cold = { hotendC: 0, bedC: 0 };

describe('Z offset by shim', () => {
  const tool = toolFor(plover, 'z-offset');

  it.each(['lift', 'deep'])('finds any offset within 0.025 mm, below zero by: %s', (below) => {
    fc.assert(
      fc.property(
        fc.double({ min: HAD - 2.5, max: HAD + 4.5, noNaN: true }),
        fc.constantFrom(0.05, 0.1, 0.3),
        (truly, shimMm) => {
          const at = shimAt(truly, { shimMm });
          const { result, sent } = carriedOut(tool.run({ ...cold, shimMm, below }), {
            board: (line) => at.board(line),
            eyes: (question) => at.eyes(question),
          });
          expect(result.outcome, result.words).toBe('found');
          expect(Math.abs((result.figures[0]?.value ?? NaN) - truly)).toBeLessThanOrEqual(0.025);
          expect(result.lines).toEqual([`offset z=${result.figures[0]?.value}`]);
          // The board is as it was until it is told.
          expect(at.offset()).toBe(HAD);
          expect(sent).toContain('limits on');
        },
      ),
      { numRuns: 60 },
    );
  });

  it('never goes down by more than a tenth near the plate, nor by more than a millimetre at all', () => {
    const at = shimAt(HAD + 0.4);
    const { pictures } = carriedOut(tool.run(cold), { board: (line) => at.board(line), eyes: (question) => at.eyes(question) }); // prettier-ignore
    const shown = pictures.flatMap((picture) => (picture.kind === 'shim' ? [picture.shownZ] : []));
    shown.forEach((z, index) => {
      const before = shown[index - 1];
      if (before === undefined || z > before) return;
      expect(before - z).toBeLessThanOrEqual(z < 1.5 ? 0.1001 : 1.0001);
    });
    expect(Math.min(...shown)).toBeGreaterThan(0.3);
  });

  it('a shim that counts as zero leaves its thickness in the offset', () => {
    const at = shimAt(HAD, { shimMm: 0.3 });
    const { result } = carriedOut(tool.run({ ...cold, shimMm: 0.3, school: 'zero' }), { board: (line) => at.board(line), eyes: (question) => at.eyes(question) }); // prettier-ignore
    expect(result.figures[0]?.value).toBeCloseTo(HAD + 0.3, 1);
    expect(result.values[0]?.because).toMatch(/called zero/);
  });

  it('says whether it held, and which way it went', () => {
    const words = (truly: number) => {
      const at = shimAt(truly);
      return carriedOut(tool.run(cold), { board: (line) => at.board(line), eyes: (question) => at.eyes(question) }).result.words; // prettier-ignore
    };
    expect(words(HAD)).toMatch(/that held/);
    expect(words(HAD + 0.5)).toMatch(/\+0\.5\d\d mm .* higher/);
    expect(words(HAD - 0.5)).toMatch(/−0\.[45]\d\d mm .* lower/);
  });

  it('runs that never agree set nothing, and name what scatters', () => {
    // Each run the plate lies elsewhere by more than two runs may differ.
    const at = shimAt(HAD, { off: () => 0 });
    const { result, sent } = carriedOut(tool.run(cold), {
      board: (line) => at.board(line),
      eyes: () => feelOf(at.gap() - at.run() * 0.1, 0.1),
    });
    expect(result).toMatchObject({ outcome: 'poor', values: [], lines: [], edits: [] });
    expect(result.causes?.[0]?.cause).toMatch(/scatters/);
    expect(sent.filter((line) => line === 'G28')).toHaveLength(6);
  });

  it('an offset so deep that nothing is met is refused, and the board has its own again', () => {
    const at = shimAt(HAD - 9);
    const { result } = carriedOut(tool.run(cold), { board: (line) => at.board(line), eyes: (question) => at.eyes(question) }); // prettier-ignore
    expect(result).toMatchObject({ outcome: 'ended', values: [], lines: [] });
    expect(result.words).toMatch(/nothing was met down to −2\.9 mm.*Nothing was set/);
  });

  it.each([
    ['the person gives up', (line: string) => (line === 'G28' ? ['done'] : undefined), 'You gave up'],
    ['the board refuses to home', (line: string) => (line === 'G28' ? ['error: no switch'] : undefined), 'no switch'], // prettier-ignore
    ['the stop is pressed', (line: string) => (line.startsWith('G1 Z2.') ? ['stopped: by you'] : undefined), 'by you'], // prettier-ignore
  ])('%s: nothing is set', (_, says, words) => {
    const at = shimAt(HAD);
    const { result, sent } = carriedOut(tool.run({ ...cold, below: 'deep' }), {
      board: (line) => says(line) ?? at.board(line),
      ...(words !== 'You gave up' && { eyes: (question) => at.eyes(question) }),
    });
    expect(result).toMatchObject({ outcome: 'ended', values: [], lines: [], edits: [], figures: [] });
    expect(result.words).toContain(words);
    expect(at.offset()).toBe(HAD);
    if (sent.includes('limits off')) expect(sent.lastIndexOf('limits on')).toBeGreaterThan(sent.lastIndexOf('limits off')); // prettier-ignore
  });

  it('warms what was chosen, plate before nozzle, and nothing that is 0', () => {
    const warmed = (chosen: object) => {
      const { sent } = carriedOut(tool.run({ ...chosen }), { board: (line) => (line === 'G28' ? ['error: x'] : ['done']) }); // prettier-ignore
      return sent.filter((line) => /^M1/.test(line));
    };
    expect(warmed({ hotendC: 150, bedC: 60 })).toEqual(['M140 S60', 'M104 S150', 'M190 S60', 'M109 S150']);
    expect(warmed({ hotendC: 0, bedC: 60 })).toEqual(['M140 S60', 'M190 S60']);
    expect(warmed(cold)).toEqual([]);
  });

  it.each([
    [
      [1, 1.02],
      [1, 1.02],
    ],
    [[1, 1.021], undefined],
    [
      [1, 2, 1.01],
      [1, 1.01],
    ],
    [[1], undefined],
    [[], undefined],
  ])('runs %j agree in %j', (heights, pair) => {
    expect(agreed(heights)).toEqual(pair);
  });
});

describe('height of the Z switch', () => {
  const tool = toolFor(dunlin, 'z-switch');
  const measured = (off: number) => {
    const place = placeKeeper();
    return carriedOut(tool.run(cold), {
      board: (line) => place.hear(line) ?? ['done'],
      eyes: ({ about }) => (about === 'shim' ? feelOf(place.at.z - off, 0.1) : undefined),
    }).result;
  };

  it.each([
    [0, 'found', /Leave the switch/],
    [0.04, 'found', /Leave the switch/],
    [0.4, 'poor', /below the plate .*farther from/],
    [-0.4, 'poor', /above the plate .*nearer to/],
  ])('a switch that is off by %d mm: %s', (off, outcome, words) => {
    const found = measured(off);
    expect(found.outcome).toBe(outcome);
    expect(found.words).toMatch(words);
    expect(Math.abs((found.figures[0]?.value ?? NaN) - off)).toBeLessThanOrEqual(0.026);
    expect(found.values).toEqual([]);
  });
});

describe('whether probe or switch is to be trusted', () => {
  const touches = (heights: number[]) =>
    carriedOut(toolFor(plover, 'probe-repeat').run({ ...cold, touches: heights.length }), {
      board: (line) =>
        line.startsWith('repeat')
          ? [...heights.map((height, at) => `repeat touch=${at + 1} height=${height}`), 'done']
          : ['done'],
    });

  it.each([
    [[0, 0.01, 0.002, 0.011], 'found', /within ± 0\.0055 mm/, undefined],
    [[0.03, 0, 0.06, 0, 0.06, 0.03], 'poor', /scatters by ± 0\.030 mm/, 'Its mount gives, or is sprung'],
    [[0, 0.02, 0.04, 0.06, 0.08], 'poor', /drifts: .*\+0\.080 mm/, 'Plate, beam or probe still warm up'],
  ])('touches %j: %s', (heights, outcome, words, cause) => {
    const { result, pictures, sent } = touches(heights);
    expect(result.outcome).toBe(outcome);
    expect(result.words).toMatch(words);
    expect(result.causes?.[0]?.cause).toBe(cause);
    expect(result.figures[0]?.value).toBeCloseTo((Math.max(...heights) - Math.min(...heights)) / 2, 9);
    expect(sent.at(-1)).toBe(`repeat n=${heights.length}`);
    // Drawn as the touches come in.
    const drawn = pictures.flatMap((picture) =>
      picture.kind === 'readings' ? [picture.readings.length] : [],
    );
    expect(drawn.slice(0, heights.length)).toEqual(heights.map((_, index) => index + 1));
  });

  it('an image that tells no touches is no measurement', () => {
    expect(touches([]).result).toMatchObject({ outcome: 'ended', figures: [] });
    expect(touches([0, 0]).result.words).toMatch(/does not tell each touch/);
  });

  it('a switch is judged by what it is off from one homing to the next, added up', () => {
    const offs = [0.002, -0.003, 0.06];
    let nth = 0;
    const { result, sent } = carriedOut(toolFor(dunlin, 'probe-repeat').run({ ...cold, touches: 4 }), {
      board: (line) => (line === 'G28 Z' ? [`home axis=z off=${offs[nth++]}`, 'done'] : ['done']),
    });
    expect(sent.filter((line) => line === 'G28 Z')).toHaveLength(3);
    expect(result.figures[0]?.value).toBeCloseTo((0.059 + 0.001) / 2, 9);
    expect(result.words).toMatch(/^The switch/);
    const mute = carriedOut(toolFor(dunlin, 'probe-repeat').run(cold), { board: () => ['done'] }).result;
    expect(mute).toMatchObject({ outcome: 'ended', figures: [] });
  });
});

describe('place of the probe', () => {
  const tool = toolFor(plover, 'probe-place');
  /** Eyes that see the tip at `true offset` from a nozzle over a mark that was made where the nozzle stood first. */
  function eyesAt(truly: { x: number; y: number }) {
    const place = placeKeeper();
    let mark = { x: NaN, y: NaN };
    return {
      board: (line: string) => place.hear(line) ?? ['done'],
      eyes({ about }: Question) {
        if (about === 'mark') {
          mark = { x: place.at.x, y: place.at.y };
          return 'made';
        }
        const off = { x: place.at.x + truly.x - mark.x, y: place.at.y + truly.y - mark.y };
        if (Math.max(Math.abs(off.x), Math.abs(off.y)) <= 0.051) return 'on';
        if (Math.abs(off.x) > Math.abs(off.y)) return off.x < 0 ? 'left' : 'right';
        return off.y < 0 ? 'front' : 'behind';
      },
    };
  }

  it('is found within a tenth, wherever it hangs, with the signs by themselves', () => {
    const near = fc.double({ min: -4, max: 4, noNaN: true });
    fc.assert(
      fc.property(near, near, (dx, dy) => {
        const truly = { x: -38 + dx, y: -9 + dy };
        const { result, sent } = carriedOut(tool.run(cold), eyesAt(truly));
        const [x, y] = result.figures.map(({ value }) => value);
        expect(Math.abs((x ?? NaN) - truly.x)).toBeLessThanOrEqual(0.1);
        expect(Math.abs((y ?? NaN) - truly.y)).toBeLessThanOrEqual(0.1);
        expect(result.lines).toEqual([`offset x=${x} y=${y}`]);
        expect(result.values.map(({ key, value }) => [key, value])).toEqual([['probe.offset.x', x], ['probe.offset.y', y]]); // prettier-ignore
        expect(result.words).toMatch(/left of the nozzle, [\d.]+ mm in front of it/);
        expect(sent.slice(-4)).toEqual(['M402', 'G90', 'G1 Z10 F600', 'M400']);
        // On the way it is drawn as not known yet, at the end as known.
        expect(result.picture).toMatchObject({ kind: 'marks', x, y, known: true });
      }),
      { numRuns: 60 },
    );
  });

  it('is drawn with every step on the way, and as known only at the end', () => {
    const { pictures } = carriedOut(tool.run(cold), eyesAt({ x: -36.5, y: -8 }));
    const marks = pictures.filter((picture) => picture.kind === 'marks');
    expect(marks.length).toBeGreaterThan(3);
    expect(marks.every(({ known }) => !known)).toBe(true);
  });

  it('a nozzle that cannot be brought to its mark ends it before anything is asked of the eyes', () => {
    const { result, questions } = carriedOut(tool.run(cold), {
      board: (line) => (line.startsWith('G1 X') ? ['error: the link is lost'] : ['done']),
    });
    expect(result).toMatchObject({ outcome: 'ended', values: [] });
    expect(questions).toEqual([]);
  });

  it('comes over the mark with the tip of the probe clear of the plate, however deep the board has it', () => {
    for (const [tip, over, look] of [[-2, 10, 4], [-9.5, 17.5, 11.5]] as const) {
      const at = eyesAt({ x: -38, y: -9 });
      const { sent } = carriedOut(tool.run(cold), { ...at, board: (line) => (line === 'M503' ? [`setting offset x=-38 y=-9 z=${tip}`, 'done'] : at.board(line)) });
      const out = sent.indexOf('M401');
      expect(sent[out - 1]).toBe(`G1 Z${over} F600`);
      expect(sent[out + 2]).toBe(`G1 Z${look} F300`);
    }
  }); // prettier-ignore

  it('says whether the file had it so', () => {
    expect(carriedOut(tool.run(cold), eyesAt({ x: -38, y: -9 })).result.words).toMatch(/had it so/);
    expect(carriedOut(tool.run(cold), eyesAt({ x: -36, y: -9 })).result.words).toMatch(
      /had it 2(\.\d+)? mm away/,
    );
  });

  it('leaves no travel: a mark that cannot be reached ends it, with the probe drawn in', () => {
    const { result, sent } = carriedOut(tool.run(cold), eyesAt({ x: 500, y: -9 }));
    expect(result).toMatchObject({ outcome: 'ended', lines: [], values: [] });
    expect(result.words).toMatch(/travel ends there.* in X/);
    expect(sent).toContain('M402');
  });
});
