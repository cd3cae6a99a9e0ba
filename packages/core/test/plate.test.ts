import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coarserMap } from '../src/plate/coarserMap';
import type { Heights } from '../src/plate/heights';
import { mapAt } from '../src/plate/mapAt';
import { mapShape } from '../src/plate/mapShape';
import { planeFit, planeThrough } from '../src/plate/planeFit';
import { screwTurns } from '../src/plate/screwTurns';
import { repeatability } from '../src/probe/repeatability';
import { zOffsetFromShim } from '../src/probe/zOffsetFromShim';

const MAP: Heights = {
  xs: [20, 110, 200],
  ys: [20, 100, 180],
  z: [
    [0.12, 0.05, -0.02],
    [0.1, 0.01, -0.06],
    [0.15, 0.08, 0],
  ],
};

const lines = (least: number) =>
  fc
    .uniqueArray(fc.integer({ min: -200, max: 400 }), { minLength: least, maxLength: 8 })
    .map((values) => values.sort((a, b) => a - b));
const grid = (xs: number[], ys: number[], height: (u: number, v: number) => number): Heights => {
  const share = (at: number, all: number[]) => (2 * (at - all[0]!)) / (all.at(-1)! - all[0]!) - 1;
  return { xs, ys, z: ys.map((y) => xs.map((x) => height(share(x, xs), share(y, ys)))) };
};
const maps = (least = 2) =>
  fc.tuple(lines(least), lines(least)).chain(([xs, ys]) =>
    fc
      .array(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: xs.length, maxLength: xs.length }), {
        minLength: ys.length,
        maxLength: ys.length,
      })
      .map((z): Heights => ({ xs, ys, z })),
  ); // prettier-ignore

describe('a plate as a plane', () => {
  it('worked example', () => {
    const found = planeFit(MAP);
    expect(found.c).toBeCloseTo(0.1228, 4);
    expect(found.slopeX).toBeCloseTo(-0.0008333, 7);
    expect(found.slopeY).toBeCloseTo(0.0001667, 7);
    expect(found.rangeBefore).toBeCloseTo(0.21, 9);
    expect(found.rangeAfter).toBeCloseTo(0.05833, 5);
    expect(found.rms).toBeCloseTo(0.02246, 5);
  });

  it('a plane goes through any spots that lie in it, in a grid or not', () => {
    const at = fc.record({ x: fc.integer({ min: -200, max: 400 }), y: fc.integer({ min: -200, max: 400 }) });
    const slope = fc.double({ min: -0.01, max: 0.01, noNaN: true });
    fc.assert(
      fc.property(fc.array(at, { minLength: 3, maxLength: 9 }), slope, slope, (places, slopeX, slopeY) => {
        const [a, b] = places;
        // Three of them do not lie in one line.
        fc.pre(
          places.some((c) => Math.abs((b!.x - a!.x) * (c.y - a!.y) - (b!.y - a!.y) * (c.x - a!.x)) > 100),
        );
        const found = planeThrough(places.map(({ x, y }) => ({ x, y, z: 1 + slopeX * x + slopeY * y })));
        for (const { x, y } of places)
          expect(found.c + found.slopeX * x + found.slopeY * y).toBeCloseTo(1 + slopeX * x + slopeY * y, 6);
      }),
    );
  });

  it('worked example of the screws, and each way to turn', () => {
    const screws = [
      { id: 'a', x: 30, y: 30 },
      { id: 'b', x: 190, y: 30 },
      { id: 'c', x: 30, y: 170 },
      { id: 'd', x: 190, y: 170 },
    ];
    const found = screwTurns({ ...MAP, screws, pitchMm: 0.7, reference: 'a', raises: 'clockwise' });
    expect(found.map(({ turns }) => Number(turns.toFixed(5)))).toEqual([0, 0.19048, 0.03333, 0.15714]);
    expect(found.map(({ move }) => move)).toEqual(['leave', 'raise', 'lower', 'raise']);
    expect(found.map(({ rotate }) => rotate)).toEqual([undefined, 'clockwise', 'anticlockwise', 'clockwise']);
    expect(() => screwTurns({ ...MAP, screws, pitchMm: 0.7, reference: 'e' })).toThrow(/"reference"/);
    expect(() => screwTurns({ ...MAP, screws, pitchMm: 0, reference: 'a' })).toThrow(/pitchMm/);
  });

  it('a plate turned by what is said is level at its screws', () => {
    fc.assert(
      fc.property(maps(), fc.double({ min: 0.2, max: 2, noNaN: true }), (map, pitchMm) => {
        const [left, right] = [map.xs[0]!, map.xs.at(-1)!];
        const [front, back] = [map.ys[0]!, map.ys.at(-1)!];
        const screws = [
          { id: 'front left', x: left, y: front },
          { id: 'front right', x: right, y: front },
          { id: 'back left', x: left, y: back },
        ];
        const turns = screwTurns({ ...map, screws, pitchMm, reference: 'front left' });
        const raised = turns.map(
          ({ turns: many, move }) => many * pitchMm * (move === 'raise' ? 1 : move === 'lower' ? -1 : 0),
        );
        // What three screws lift is a plane.
        const level: Heights = {
          ...map,
          z: map.ys.map((y, row) =>
            map.xs.map(
              (x, column) =>
                map.z[row]![column]! +
                raised[1]! * ((x - left) / (right - left)) +
                raised[2]! * ((y - front) / (back - front)),
            ),
          ),
        };
        const after = screwTurns({ ...level, screws, pitchMm, reference: 'front left' });
        for (const { mm } of after) expect(mm).toBeLessThanOrEqual(0.0401);
      }),
    );
  });
});

describe('what a map adds', () => {
  it('worked examples', () => {
    expect(mapAt({ ...MAP, x: 65, y: 60 })).toBeCloseTo(0.07, 9);
    expect(mapAt({ ...MAP, x: 65, y: 60, atZ: 2, fadeMm: 10 })).toBeCloseTo(0.056, 9);
    expect(mapAt({ ...MAP, x: 65, y: 60, atZ: 11, fadeMm: 10 })).toBe(0);
    expect(() => mapAt({ ...MAP, x: 0, y: 0, fadeMm: 10 })).toThrow(/atZ/);
  });

  it('is the map at its own points, and never beyond what lies around', () => {
    fc.assert(
      fc.property(
        maps(),
        fc.double({ min: -300, max: 500, noNaN: true }),
        fc.double({ min: -300, max: 500, noNaN: true }),
        (map, x, y) => {
          map.ys.forEach((at, row) =>
            map.xs.forEach((across, column) =>
              expect(mapAt({ ...map, x: across, y: at })).toBeCloseTo(map.z[row]![column]!, 9),
            ),
          );
          const all = map.z.flat();
          const height = mapAt({ ...map, x, y });
          expect(height).toBeGreaterThanOrEqual(Math.min(...all) - 1e-9);
          expect(height).toBeLessThanOrEqual(Math.max(...all) + 1e-9);
        },
      ),
    );
  });

  it('a coarser map misses nothing where nothing is left out, and a plane never', () => {
    fc.assert(
      fc.property(maps(), fc.integer({ min: 1, max: 9 }), (map, keep) => {
        expect(coarserMap({ ...map, keep: 1 }).worst).toBeCloseTo(0, 9);
        const plane = grid(map.xs, map.ys, (u, v) => 0.1 * u - 0.05 * v);
        expect(coarserMap({ ...plane, keep }).worst).toBeCloseTo(0, 9);
        const { worst, rms } = coarserMap({ ...map, keep });
        expect(rms).toBeLessThanOrEqual(worst + 1e-12);
      }),
    );
    expect(coarserMap({ ...MAP, keep: 2 }).worst).toBeCloseTo(0.0525, 9);
  });
});

describe('what shape a plate has', () => {
  const xs = [20, 70, 120, 170, 220];
  const ys = [10, 60, 110, 160];
  it.each<[string, (u: number, v: number) => number]>([
    ['flat', (u) => 0.01 * u],
    ['tilted', (u, v) => 0.2 * u - 0.1 * v + 0.03 * u * v],
    ['bowl', (u, v) => 0.2 * (u * u + v * v)],
    ['dome', (u, v) => -0.2 * u * u - 0.1 * v * v],
    ['twisted', (u, v) => 0.2 * u * v + 0.02 * u],
    ['curved along x', (u) => 0.2 * u * u],
    ['curved along y', (u, v) => -0.2 * v * v + 0.02 * u * u],
    ['irregular', (u, v) => 0.1 * Math.cos(6.3 * u) * Math.cos(9.4 * v)],
  ])('%s', (shape, height) => {
    const found = mapShape(grid(xs, ys, height));
    expect(found.shape).toBe(shape);
    expect(found.share).toBeLessThanOrEqual(1 + 1e-9);
  });

  it('does not hang on which unit the places are in, nor on where zero is', () => {
    fc.assert(
      fc.property(maps(3), fc.integer({ min: 1, max: 20 }), fc.integer({ min: -9, max: 9 }), (map, by, up) => {
        const other = { xs: map.xs.map((x) => x * by + 7), ys: map.ys.map((y) => y * by - 3), z: map.z.map((row) => row.map((z) => z + up)) };
        const [one, two] = [mapShape(map), mapShape(other)];
        expect(two.shape).toBe(one.shape);
        expect(two.share).toBeCloseTo(one.share, 6);
      }),
    ); // prettier-ignore
  });

  it('refuses maps with holes, too few lines, and lines that do not rise', () => {
    expect(() => mapShape({ ...MAP, xs: [20, 110], z: MAP.z.map((row) => row.slice(0, 2)) })).toThrow(/"xs"/);
    expect(() => planeFit({ ...MAP, z: [[0, 0, 0], [0, 0], [0, 0, 0]] })).toThrow(/3 heights in each row/);
    expect(() => planeFit({ ...MAP, z: MAP.z.slice(1) })).toThrow(/"z"/);
    expect(() => planeFit({ ...MAP, xs: [20, 20, 200] })).toThrow(/must rise/);
    expect(() => planeFit({ ...MAP, z: [[0, 0, NaN], [0, 0, 0], [0, 0, 0]] })).toThrow(/"z/);
  }); // prettier-ignore
});

describe('a probe that is judged', () => {
  it('worked example', () => {
    const found = repeatability({ readings: [1.412, 1.409, 1.415, 1.41, 1.413, 1.411] });
    expect(found).toMatchObject({ n: 6, verdict: 'fine' });
    expect(found.range).toBeCloseTo(0.006, 9);
    expect(found.mean).toBeCloseTo(1.4116667, 6);
    expect(found.sd).toBeCloseTo(0.00216, 6);
    expect(found.sdPopulation).toBeCloseTo(0.001972, 6);
  });

  it('tells drift from scatter, and holds its limit either way of the middle', () => {
    expect(repeatability({ readings: [0, 0.02, 0.04, 0.06, 0.08] }).verdict).toBe('drifting');
    expect(repeatability({ readings: [0, 0.08, 0, 0.08, 0] }).verdict).toBe('poor');
    expect(repeatability({ readings: [0, 0.05, 0, 0.05] }).verdict).toBe('fine');
    expect(repeatability({ readings: [0, 0.06, 0, 0.06], limitMm: 0.03 }).verdict).toBe('fine');
    expect(() => repeatability({ readings: [1, 2] })).toThrow(/readings/);
    expect(() => repeatability({ readings: [1, 2, NaN] })).toThrow(/readings/);
  });

  it('the order of readings changes drift alone', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 3, maxLength: 40 }),
        (readings) => {
          const [one, back] = [
            repeatability({ readings }),
            repeatability({ readings: [...readings].reverse() }),
          ];
          expect(back.driftPerReading).toBeCloseTo(-one.driftPerReading, 9);
          expect(back.sd).toBeCloseTo(one.sd, 9);
          expect(one.sdPopulation).toBeLessThanOrEqual(one.sd + 1e-12);
          expect(one.range / 2).toBeGreaterThanOrEqual(one.sdPopulation - 1e-9);
        },
      ),
    );
  });

  it('worked examples of the offset by shim', () => {
    expect(zOffsetFromShim({ offset: -2.4, shownZ: 0.35, shimMm: 0.08, countShim: false })).toBeCloseTo(-2.05, 9); // prettier-ignore
    expect(zOffsetFromShim({ offset: -2.4, shownZ: 0.35, shimMm: 0.08, countShim: true })).toBeCloseTo(-2.13, 9); // prettier-ignore
    expect(() => zOffsetFromShim({ offset: 0, shownZ: 0, shimMm: -0.1, countShim: true })).toThrow(/shimMm/);
  });
});
