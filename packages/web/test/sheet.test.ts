import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FINE, linesOfHeight } from '../src/stations/calibrate/map/linesOfHeight';
import { sheetOf } from '../src/stations/calibrate/map/sheet';

const side = fc
  .tuple(fc.integer({ min: -20, max: 60 }), fc.integer({ min: 40, max: 400 }))
  .map(([from, long]) => [from, from + long / 2, from + long]);
const height = fc.double({ min: -1, max: 1, noNaN: true });
const maps = fc
  .tuple(side, side, fc.array(fc.tuple(height, height, height), { minLength: 3, maxLength: 3 }))
  .map(([xs, ys, z]) => ({ xs, ys, z }));
const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('a map as a sheet', () => {
  it('every place of the plate is found again on the drawing, front below', () => {
    fc.assert(
      fc.property(maps, share, share, (map, across, back) => {
        const sheet = sheetOf(map);
        const place = {
          x: sheet.x[0] + across * (sheet.x[1] - sheet.x[0]),
          y: sheet.y[0] + back * (sheet.y[1] - sheet.y[0]),
        };
        const found = sheet.onPlate(sheet.onSheet(place));
        expect(found.x).toBeCloseTo(place.x, 6);
        expect(found.y).toBeCloseTo(place.y, 6);
      }),
    );
    const sheet = sheetOf({ xs: [0, 100], ys: [0, 100], z: [] });
    expect(sheet.onSheet({ x: 0, y: 0 }).y).toBeGreaterThan(sheet.onSheet({ x: 0, y: 100 }).y);
  });

  it('the picture of lines lies on the plate: its first cell at the back left corner, its last at the front right', () => {
    const sheet = sheetOf({ xs: [0, 100], ys: [0, 100], z: [] });
    const { x, y } = sheet.onSheet({ x: 0, y: 100 });
    expect(sheet.ring([[0.5, 0.5]])).toBe(`M${x.toFixed(1)} ${y.toFixed(1)}Z`);
    const end = sheet.onSheet({ x: 100, y: 0 });
    expect(sheet.ring([[FINE - 0.5, FINE - 0.5]])).toBe(`M${end.x.toFixed(1)} ${end.y.toFixed(1)}Z`);
  });

  it('a pointer beside the plate reads its edge', () => {
    const sheet = sheetOf({ xs: [10, 110], ys: [20, 120], z: [] });
    expect(sheet.onPlate({ x: -500, y: -500 })).toEqual({ x: 10, y: 120 });
    expect(sheet.kept({ x: 999, y: 0 })).toEqual({ x: 110, y: 20 });
  });
});

describe('lines of equal height', () => {
  it('about eight of them, a round step apart, from the lowest to the highest', () => {
    fc.assert(
      fc.property(maps, (map) => {
        const { lines, low, top, step } = linesOfHeight(map);
        expect(Number((step / 10 ** Math.floor(Math.log10(step) + 1e-9)).toPrecision(6))).toBeOneOf([
          1, 2, 5,
        ]);
        if (top - low >= 0.01) expect((top - low) / step).toBeLessThanOrEqual(8.001);
        expect(lines[0]?.value).toBeLessThanOrEqual(low + 1e-9);
        expect(lines.at(-1)?.value).toBeGreaterThanOrEqual(top - step - 1e-9);
      }),
      { numRuns: 30 },
    );
  });
});
