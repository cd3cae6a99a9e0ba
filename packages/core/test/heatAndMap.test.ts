import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CalcError } from '../src/calculation/calculation';
import { adcToC, thermistorOhms } from '../src/heat/thermistor';
import { fitHeater } from '../src/heat/fitHeater';
import { guardCheck } from '../src/heat/guardCheck';
import { likelySensors } from '../src/heat/likelySensors';
import { mapGrid } from '../src/probe/mapGrid';
import { mapTime } from '../src/probe/mapTime';
import { relayPid } from '../src/heat/relayPid';

/** Equal to four significant figures. */
const near = (actual: number | null, expected: number) =>
  expect(Math.abs(actual! - expected)).toBeLessThanOrEqual(Math.abs(expected) * 5e-4);

describe('relayPid', () => {
  it('worked example', () => {
    const found = relayPid({ highC: 201.75, lowC: 198.25, periodS: 22, swing: 127.5, rule: 'classic' });
    near(found.ku, 92.76);
    near(found.kp, 55.66);
    near(found.ki, 5.06);
    near(found.kd, 153.1);
  });
  it('a gentler rule asks for less gain and looks further ahead', () => {
    const by = (rule: 'classic' | 'some overshoot' | 'no overshoot') =>
      relayPid({ highC: 61, lowC: 59, periodS: 40, swing: 127.5, rule });
    expect(by('some overshoot').kp).toBeCloseTo(0.33 * by('classic').ku, 9);
    expect(by('no overshoot').kd).toBeCloseTo((by('no overshoot').kp * 40) / 3, 9);
  });
  it('refuses a swing that does not swing, naming the value', () => {
    expect(() => relayPid({ highC: 200, lowC: 200, periodS: 22, swing: 127, rule: 'classic' })).toThrow(
      /"highC" must be above/,
    );
  });
});

describe('guardCheck', () => {
  const heater = { gainC: 230, tauS: 160, ambientC: 21, targetC: 240 };
  const windows = { watchRiseC: 4, watchPeriodS: 20, holdDropC: 6, holdPeriodS: 40 };
  it('worked example', () => {
    const prompt = guardCheck({ ...heater, ...windows, deadS: 0 });
    near(prompt.warmRiseC, 1.763);
    expect(prompt.falseTripWarm).toBe(true);
    const slow = guardCheck({ ...heater, ...windows, deadS: 10 });
    near(slow.warmRiseC, 0.9088);
    expect(slow.falseTripWarm).toBe(true);
  });
  it('a longer window trips no more, whatever the heater', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 250, max: 600, noNaN: true }),
        fc.double({ min: 10, max: 900, noNaN: true }),
        fc.double({ min: 5, max: 300, noNaN: true }),
        (gainC, tauS, period) => {
          const of = (watchPeriodS: number) =>
            guardCheck({ ...heater, ...windows, gainC, tauS, deadS: 3, watchPeriodS });
          if (!of(period).falseTripWarm) expect(of(period * 1.5).falseTripWarm).toBe(false);
        },
      ),
    );
  });
  it('is late only for a heater that can run away in that time', () => {
    const strong = { ...heater, gainC: 600, deadS: 2 };
    expect(guardCheck({ ...strong, ...windows, holdPeriodS: 300 }).holdVerdict).toBe('late');
    expect(guardCheck({ ...strong, ...windows, holdPeriodS: 10 }).holdVerdict).toBe('fine');
    // 230 + 21 °C is all this one can reach: 11 °C above its target.
    expect(guardCheck({ ...heater, deadS: 2, ...windows, holdPeriodS: 3000 }).holdVerdict).toBe('fine');
  });
  it('a drop the reading never makes has no time', () => {
    const low = { ...heater, deadS: 0, targetC: 25, gainC: 30, ...windows };
    expect(guardCheck(low)).toMatchObject({ holdTripS: null, holdVerdict: 'fine' });
    expect(() => guardCheck({ ...low, targetC: 21 })).toThrow(CalcError);
  });
});

describe('fitHeater', () => {
  const curve = (gainC: number, tauS: number, deadS: number, duty: number, length: number) =>
    Array.from({ length: 120 }, (_, index) => {
      const t = (length * index) / 119;
      return { t, c: 21 + (t <= deadS ? 0 : gainC * duty * (1 - Math.exp(-(t - deadS) / tauS))) };
    });
  it('finds again what made the curve, scaled to full duty', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 500, noNaN: true }),
        fc.double({ min: 20, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 15, noNaN: true }),
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        (gainC, tauS, deadS, duty) => {
          const found = fitHeater({
            trace: curve(gainC, tauS, deadS, duty, 3 * tauS + 20),
            duty,
            ambientC: 21,
          });
          expect(found.gainC / gainC).toBeCloseTo(1, 2);
          expect(found.tauS / tauS).toBeCloseTo(1, 1);
          expect(Math.abs(found.deadS - deadS)).toBeLessThan(1.5);
          expect(found.rmsC).toBeLessThan(0.5);
        },
      ),
      { numRuns: 40 },
    );
  });
  it('refuses a trace that cools, runs back in time, or is too short', () => {
    const trace = curve(200, 60, 2, 1, 200);
    const said = (changed: typeof trace) => () => fitHeater({ trace: changed, duty: 1, ambientC: 21 });
    expect(said(trace.map(({ t, c }) => ({ t, c: 42 - c })))).toThrow(/nothing warms/);
    expect(said([...trace.slice(0, 6), trace[2]!])).toThrow(/"trace.6.t"/);
    expect(said(trace.slice(0, 3))).toThrow(/trace/);
  });
});

describe('likelySensors', () => {
  const candidates = [
    { id: 'a', r25: 100_000, beta: 3950 },
    { id: 'b', r25: 100_000, beta: 4267 },
    { id: 'c', r25: 10_000, beta: 3435 },
  ];
  const setup = { bits: 12, pullupOhms: 4700, candidates };
  const rawOf = (index: number, c: number) => {
    const ohms = thermistorOhms(candidates[index]!, c);
    return (4095 * ohms) / (ohms + 4700);
  };
  it('a reading at room temperature cannot tell two of one cold resistance apart', () => {
    const { ranked, tied } = likelySensors({ ...setup, readings: [{ raw: rawOf(1, 25), knownC: 25 }] });
    expect(tied.sort()).toEqual(['a', 'b']);
    expect(ranked[2]!.id).toBe('c');
  });
  it('a warm one can, and the right sensor reads right', () => {
    const { ranked, tied } = likelySensors({
      ...setup,
      readings: [25, 190].map((knownC) => ({ raw: rawOf(1, knownC), knownC })),
    });
    expect(tied).toEqual([]);
    expect(ranked[0]).toMatchObject({ id: 'b' });
    expect(ranked[0]!.errorC).toBeLessThan(1e-6);
  });
  it('a rail reads nothing and comes last; a count above full scale is refused', () => {
    const { ranked } = likelySensors({ ...setup, readings: [{ raw: 4095, knownC: 25 }] });
    expect(ranked.every(({ errorC }) => errorC === null)).toBe(true);
    expect(() => likelySensors({ ...setup, readings: [{ raw: 4096, knownC: 25 }] })).toThrow(/raw/);
    const reading = { raw: 20, knownC: 25 };
    const given = (change: object) => () => likelySensors({ ...setup, readings: [reading], ...change });
    for (const bits of [6, 24]) expect(given({ bits })).not.toThrow();
    for (const bits of [5, 25, 12.5]) expect(given({ bits })).toThrow(/bits/);
    for (const count of [1, 100]) expect(given({ readings: Array(count).fill(reading) })).not.toThrow();
    for (const count of [0, 101]) expect(given({ readings: Array(count).fill(reading) })).toThrow(/readings/);
    for (const count of [1, 500]) expect(given({ candidates: Array(count).fill(candidates[0]) })).not.toThrow(); // prettier-ignore
    for (const count of [0, 501]) expect(given({ candidates: Array(count).fill(candidates[0]) })).toThrow(/candidates/); // prettier-ignore
    expect(given({ readings: [{ raw: 20, knownC: -274 }] })).toThrow(/knownC/);
    expect(adcToC({ raw: 4095, bits: 12, pullupOhms: 4700, r25: 1e5, beta: 3950 }).c).toBeNull();
  });
});

describe('mapGrid and mapTime', () => {
  it('worked example of mapTime', () => {
    const points = [
      [20, 20],
      [110, 20],
      [200, 20],
      [200, 100],
      [110, 100],
      [20, 100],
    ].map(([x, y]) => ({ x: x!, y: y! }));
    near(
      mapTime({ points, travelMmS: 150, clearMm: 5, plungeMmS: 4, deployS: 1.2, touches: 2 }).seconds,
      40.13,
    );
  });
  it('a grid goes back and forth, touches both edges exactly, and the centre only when both counts are odd', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 15 }), fc.integer({ min: 2, max: 15 }), (nx, ny) => {
        const reach = { x: [10, 190.1] as [number, number], y: [-3, 200] as [number, number], share: 0.9 };
        const { points, touchesCentre } = mapGrid({ reach, nx, ny });
        expect(points).toHaveLength(nx * ny);
        expect(points[0]).toEqual({ x: 10, y: -3 });
        expect(Math.max(...points.map(({ x }) => x))).toBe(190.1);
        expect(points.at(-1)!.y).toBe(200);
        expect(touchesCentre).toBe(nx % 2 === 1 && ny % 2 === 1);
        // No step is longer than one gap: nothing is crossed twice.
        const gap = Math.max(180.1 / (nx - 1), 203 / (ny - 1));
        for (let i = 1; i < points.length; i += 1)
          expect(Math.hypot(points[i]!.x - points[i - 1]!.x, points[i]!.y - points[i - 1]!.y)).toBeLessThan(
            gap + 1e-6,
          );
      }),
    );
  });
  it('refuses counts out of range and a reach without area', () => {
    const reach = { x: [0, 10] as [number, number], y: [5, 5] as [number, number] };
    expect(() => mapGrid({ reach, nx: 3, ny: 3 })).toThrow(/"reach.y"/);
    expect(() => mapGrid({ reach: { ...reach, y: [0, 5] }, nx: 16, ny: 3 })).toThrow(/nx/);
    expect(() => mapTime({ points: [], travelMmS: 1, clearMm: 1, plungeMmS: 1, deployS: 0 })).toThrow(
      /points/,
    );
  });
});
