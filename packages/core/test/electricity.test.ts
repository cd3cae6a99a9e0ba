import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CalcError } from '../src/calculation/calculation';
import { dividerFor } from '../src/electricity/dividerFor';
import { driverReference, motorCurrent } from '../src/electricity/driverReference';
import { heaterLoad } from '../src/electricity/heaterLoad';
import { holesFit } from '../src/board/holesFit';
import { supplyBudget } from '../src/electricity/supplyBudget';
import { wireCheck } from '../src/electricity/wireCheck';

/** Equal to four significant figures. */
const near = (actual: number, expected: number) =>
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(Math.abs(expected) * 5e-4);
const refuses = (act: () => unknown, key: string) => {
  try {
    act();
  } catch (error) {
    return expect((error as CalcError).key).toBe(key);
  }
  expect.unreachable(`nothing was refused for ${key}`);
};

describe('worked examples of electricity', () => {
  it('wireCheck', () => {
    const found = wireCheck({ awg: 16, lengthM: 0.8, amps: 6, volts: 24 });
    near(found.areaMm2, 1.309);
    near(found.dropV, 0.1265);
    near(found.dropPct, 0.5269);
    near(found.densityAPerMm2, 4.585);
    expect(found.verdict).toBe('fine');
  });
  it('wireCheck warms before it says no', () => {
    const verdict = (amps: number) => wireCheck({ awg: 20, lengthM: 0.3, amps, volts: 24 }).verdict;
    expect([2, 4, 6].map(verdict)).toEqual(['fine', 'warm', 'no']);
    expect(wireCheck({ awg: 20, lengthM: 30, amps: 1, volts: 24 }).verdict).toBe('warm');
  });
  it('heaterLoad from watts and from ohms', () => {
    expect(heaterLoad({ watts: 40, volts: 24 })).toEqual({ amps: 40 / 24, ohms: 14.4 });
    const back = heaterLoad({ ohms: 14.4, volts: 24 });
    near('watts' in back ? back.watts : 0, 40);
    refuses(() => heaterLoad({ watts: 0, volts: 24 }), 'watts');
    refuses(() => heaterLoad({ volts: 24 } as never), 'heaterLoad');
  });
  it('supplyBudget: 40 W rated 12 V on 24 V draws 160 W', () => {
    const heater = { name: 'cartridge', kind: 'resistive' as const, watts: 40, volts: 12 };
    const found = supplyBudget({ supplyV: 24, supplyA: 10, loads: [heater] });
    near(found.each[0]!.watts, 160);
    near(found.peakA, 160 / 24);
    expect(found).toMatchObject({ largest: 'cartridge', otherVoltage: ['cartridge'], verdict: 'fine' });
  });
  it('supplyBudget leaves mains out, counts duty in the mean alone, and is tight from four fifths', () => {
    const load = (amps: number) => ({ name: 'bed', kind: 'resistive' as const, amps, volts: 24, duty: 0.5 });
    const budget = (amps: number) =>
      supplyBudget({
        supplyV: 24,
        supplyA: 10,
        loads: [load(amps), { name: 'plate', kind: 'mains', watts: 500, volts: 230 }],
      });
    expect([8, 8.1, 10, 10.1].map((amps) => budget(amps).verdict)).toEqual(['fine', 'tight', 'tight', 'no']);
    near(budget(8).meanA, 4);
    expect(supplyBudget({ supplyV: 24, supplyA: 10, loads: [] })).toMatchObject({ peakA: 0, largest: '' });
  });
  it('supplyBudget names the first of the largest', () => {
    const load = (name: string, watts: number) => ({ name, kind: 'resistive' as const, watts, volts: 24 });
    const loads = [load('small', 10), load('first', 40), load('second', 40)];
    const budget = supplyBudget({ supplyV: 24, supplyA: 10, loads });
    expect(budget.largest).toBe('first');
    // What says no duty is on all the time.
    near(budget.meanA, budget.peakA);
  });
  it('a chopper driver draws by power, not by motor current', () => {
    const motor = { name: 'x', kind: 'chopper' as const, amps: 1, volts: 3 };
    near(supplyBudget({ supplyV: 24, supplyA: 10, loads: [motor] }).peakA, 3 / 24);
  });
  it('driverReference and motorCurrent', () => {
    near(driverReference({ currentRms: 0.84, voltsPerAmpRms: 0.8 }).volts, 0.672);
    near(motorCurrent({ ratedRms: 1.2 }).amps, 0.84);
    near(motorCurrent({ ratedRms: 1.2, share: 0.9 }).amps, 1.08);
    refuses(() => motorCurrent({ ratedRms: 1.2, share: 0.91 }), 'share');
  });
  it('dividerFor stays below what is tolerated, near to what is wanted, with values of E24', () => {
    const volts = fc.record({
      fromV: fc.double({ min: 4, max: 48, noNaN: true }),
      toV: fc.double({ min: 1, max: 3.6, noNaN: true }),
    });
    fc.assert(
      fc.property(volts, ({ fromV, toV }) => {
        const found = dividerFor({ fromV, toV, tolerantV: toV });
        const level = (fromV * found.bottomOhms) / (found.topOhms + found.bottomOhms);
        return (
          found.levelV <= toV + 1e-9 && Math.abs(level - found.levelV) < 1e-9 && found.levelV > toV * 0.9
        );
      }),
      { numRuns: 30 },
    );
    refuses(() => dividerFor({ fromV: 3, toV: 5, tolerantV: 5 }), 'toV');
    refuses(() => dividerFor({ fromV: 24, toV: 5, tolerantV: 3.3 }), 'toV');
    const loaded = dividerFor({ fromV: 24, toV: 3.3, tolerantV: 3.6, loadOhms: 10_000 });
    expect(loaded.levelV).toBeLessThanOrEqual(3.6);
  });
});

describe('holesFit', () => {
  const square = [{ x: 4, y: 4 }, { x: 104, y: 4 }, { x: 4, y: 80 }, { x: 104, y: 80 }]; // prettier-ignore
  it('finds a pattern again, however it was turned and moved', () => {
    const points = fc.uniqueArray(
      fc.record({ x: fc.integer({ min: 0, max: 120 }), y: fc.integer({ min: 0, max: 90 }) }),
      {
        minLength: 2,
        maxLength: 6,
        selector: ({ x, y }) => `${x},${y}`,
      },
    );
    fc.assert(
      fc.property(points, fc.constantFrom(0, 1, 2, 3), fc.integer({ min: -50, max: 50 }), (a, turns, by) => {
        const turned = a.map(
          ({ x, y }) =>
            [
              { x, y },
              { x: -y, y: x },
              { x: -x, y: -y },
              { x: y, y: -x },
            ][turns]!,
        );
        const b = turned.map(({ x, y }) => ({ x: x + by, y: y - by }));
        const found = holesFit({ a, b, tolMm: 0.1 });
        return found.verdict === 'fits' && found.matched.length === a.length && found.worstMm < 1e-6;
      }),
      { numRuns: 60 },
    );
  });
  it('sets the shift between all misses, so that holes a little off still fit', () => {
    const wide = [{ x: 4, y: 4 }, { x: 105.6, y: 4 }, { x: 4, y: 80 }, { x: 105.6, y: 80 }]; // prettier-ignore
    const found = holesFit({ a: square, b: wide, tolMm: 0.85 });
    expect(found).toMatchObject({ verdict: 'fits', rotation: 0 });
    near(found.worstMm, 0.8);
    expect(holesFit({ a: square, b: wide, tolMm: 0.7 }).verdict).toBe('partly');
  });
  it('one hole over another is no fit', () => {
    expect(holesFit({ a: square, b: [{ x: 0, y: 0 }, { x: 33, y: 21 }], tolMm: 0.5 }).verdict).toBe('no'); // prettier-ignore
    refuses(() => holesFit({ a: [], b: square, tolMm: 1 }), 'a');
    // Everything within the tolerance of everything: refused before it takes long.
    const heap = Array.from({ length: 24 }, (_, index) => ({ x: (index % 5) / 9, y: index / 7 }));
    refuses(
      () => holesFit({ a: heap, b: heap.map(({ x, y }) => ({ x: x + y / 5, y })), tolMm: 90 }),
      'tolMm',
    );
  });
});
