import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adcToC, thermistorC } from '../src/heat/thermistor';
import { baudError } from '../src/electricity/baudError';
import { cardName } from '../src/flash/cardName';
import { crc32 } from '../src/bytes/crc32';
import { crossBeltDirections } from '../src/motion/crossBeltDirections';
import { cubeVerdict } from '../src/motion/cubeVerdict';
import { deviationFromJolt, joltFromDeviation } from '../src/motion/cornering';
import { directionAfterSwap } from '../src/motion/directionAfterSwap';
import { extruderSteps } from '../src/motion/extruderSteps';
import { probeOffset } from '../src/probe/probeOffset';
import { probeReach } from '../src/probe/probeReach';
import { stepsPerMm } from '../src/motion/stepsPerMm';
import { toBase64 } from '../src/bytes/base64';
import { topSpeed } from '../src/motion/topSpeed';

/** Equal to four significant figures. */
const near = (actual: number, expected: number) =>
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(Math.abs(expected) * 5e-4);

describe('worked examples', () => {
  it('stepsPerMm', () => {
    near(stepsPerMm({ kind: 'belt', fullSteps: 200, microsteps: 32, pitchMm: 2, teeth: 18 }), 177.8);
    near(stepsPerMm({ kind: 'screw', fullSteps: 400, microsteps: 16, leadMm: 4 }), 1600);
    near(
      stepsPerMm({ kind: 'roller', fullSteps: 200, microsteps: 16, gearRatio: 3.5, diameterMm: 10.8 }),
      330.1,
    );
  });
  it('topSpeed loses the root of two on a cross-belt', () => {
    near(topSpeed({ stepsPerMm: 177.7778, stepRateHz: 100_000 }), 562.5);
    near(topSpeed({ stepsPerMm: 177.7778, stepRateHz: 100_000, kinematics: 'cross-belt' }), 397.7);
  });
  it('deviation and jolt are inverses', () => {
    near(deviationFromJolt({ joltMmS: 9, accelMmS2: 1200 }), 0.027);
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 100, noNaN: true }),
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        (joltMmS, accelMmS2) => {
          near(
            joltFromDeviation({ deviationMm: deviationFromJolt({ joltMmS, accelMmS2 }), accelMmS2 }),
            joltMmS,
          );
        },
      ),
    );
  });
  it('extruderSteps', () => {
    const result = extruderSteps({ currentStepsPerMm: 402.5, askedMm: 100, markMm: 120, leftMm: 23.6 });
    near(result.movedMm, 96.4);
    near(result.stepsPerMm, 417.5);
    near(result.changePct, 3.734);
    expect(result.verdict).toBe('apply');
  });
  it('degrees a count are the slope of what is read', () => {
    const read = (raw: number) => adcToC({ raw, bits: 12, pullupOhms: 4700, r25: 100_000, beta: 3950 });
    for (const raw of [200, 800, 2000, 3500]) {
      const slope = (read(raw - 1).c! - read(raw + 1).c!) / 2;
      expect(read(raw).degreesPerCount! / slope).toBeCloseTo(1, 3);
    }
  });
  it('thermistorC and adcToC', () => {
    near(thermistorC({ ohms: 10_000, r25: 100_000, beta: 3950 }), 87.72);
    near(thermistorC({ ohms: 1000, r25: 100_000, beta: 3950 }), 183.9);
    const read = adcToC({ raw: 3000, bits: 12, pullupOhms: 4700, r25: 100_000, beta: 3950 });
    near(read.ohms!, 12_877);
    near(read.c!, 79.57);
  });
  it('baudError', () => {
    near(baudError({ clockHz: 16e6, baud: 115200, divider: 16 }).errorPct, -3.549);
    near(baudError({ clockHz: 16e6, baud: 115200, divider: 8 }).errorPct, 2.124);
    expect(baudError({ clockHz: 16e6, baud: 250000, divider: 16 }).errorPct).toBe(0);
  });
  it('crc32 of the standard check text', () => {
    expect(crc32({ base64: toBase64(new TextEncoder().encode('123456789')) })).toEqual({ hex: 'cbf43926' });
    expect(crc32({ base64: '' })).toEqual({ hex: '00000000' });
  });
});

describe('crossBeltDirections', () => {
  const change = (x: string, y: string) =>
    crossBeltDirections({
      observed: [
        { asked: '+x', moved: x as '+x' },
        { asked: '+y', moved: y as '+y' },
      ],
    });
  it('gives the worked examples', () => {
    expect(change('+y', '+x')).toEqual({ toggleA: false, toggleB: true, swapMotors: false });
    expect(change('-x', '+y')).toEqual({ toggleA: true, toggleB: true, swapMotors: true });
    expect(change('+x', '-y')).toEqual({ toggleA: false, toggleB: false, swapMotors: true });
    expect(change('+x', '+y')).toEqual({ toggleA: false, toggleB: false, swapMotors: false });
  });
  it('finds the motor that does not move', () => {
    expect(change('+x+y', '+x+y')).toEqual({ deadMotor: 'B' });
    expect(change('+x-y', '-x+y')).toEqual({ deadMotor: 'A' });
  });
  it('says so when no arrangement moves like that', () => {
    expect(change('+x', '+x')).toHaveProperty('contradiction', true);
  });

  /** A machine with any plugs, motor senses and inversions; what it does when asked, and after a change. */
  const moved = (
    plant: { crossed: boolean; senseA: number; senseB: number; invA: number; invB: number },
    asked: '+x' | '+y',
  ) => {
    const out = { a: plant.invA, b: (asked === '+x' ? 1 : -1) * plant.invB };
    const a = plant.senseA * (plant.crossed ? out.b : out.a);
    const b = plant.senseB * (plant.crossed ? out.a : out.b);
    const part = (value: number, axis: string) => (value === 0 ? '' : `${value > 0 ? '+' : '-'}${axis}`);
    return `${part(a + b, 'x')}${part(a - b, 'y')}`;
  };
  it('mends every arrangement, whatever the present inversions', () => {
    const sign = fc.constantFrom(1, -1);
    fc.assert(
      fc.property(
        fc.record({ crossed: fc.boolean(), senseA: sign, senseB: sign, invA: sign, invB: sign }),
        (plant) => {
          const observed = (['+x', '+y'] as const).map((asked) => ({
            asked,
            moved: moved(plant, asked) as '+x',
          }));
          const result = crossBeltDirections({
            observed,
            invertedNow: { a: plant.invA < 0, b: plant.invB < 0 },
          });
          if (!('swapMotors' in result)) throw new Error('expected a change');
          const mended = {
            ...plant,
            crossed: plant.crossed !== result.swapMotors,
            invA: plant.invA * (result.toggleA ? -1 : 1),
            invB: plant.invB * (result.toggleB ? -1 : 1),
          };
          expect(moved(mended, '+x')).toBe('+x');
          expect(moved(mended, '+y')).toBe('+y');
        },
      ),
    );
  });
});

describe('verdicts', () => {
  it('directionAfterSwap is the parity of the four', () => {
    const all = { wasInverted: true, oldDriverFlips: true, newDriverFlips: true, plugTurned: true };
    expect(directionAfterSwap(all)).toBe(false);
    expect(directionAfterSwap({ ...all, plugTurned: false })).toBe(true);
  });
  it('extruderSteps keeps below 1 % and measures again above 25 %', () => {
    const at = (leftMm: number) =>
      extruderSteps({ currentStepsPerMm: 400, askedMm: 100, markMm: 120, leftMm }).verdict;
    expect(at(20.5)).toBe('keep');
    expect(at(40)).toBe('apply');
    expect(at(41)).toBe('measure again');
  });
  it('cubeVerdict tells the machine from the plastic', () => {
    const verdict = (drive: 'belt' | 'roller', ...sizes: [number, number][]) =>
      cubeVerdict({
        axis: 'x',
        drive,
        sizes: sizes.map(([nominalMm, measuredMm]) => ({ nominalMm, measuredMm })),
      }).verdict;
    expect(verdict('belt', [20, 20.08])).toBe('leave');
    expect(verdict('belt', [20, 20.2], [60, 60.2])).toBe('line width');
    expect(verdict('belt', [20, 19.9], [60, 59.7])).toBe('plastic shrinkage');
    expect(verdict('roller', [20, 19.9], [60, 59.7])).toBe('measure travel');
    expect(verdict('belt', [20, 19.7])).toBe('measure travel');
    // Just within is left alone, just outside is not; one size measured twice parts nothing.
    expect(verdict('belt', [20, 19.92], [60, 60.08])).toBe('leave');
    expect(verdict('belt', [20, 19.919], [60, 59.76])).not.toBe('leave');
    expect(verdict('belt', [20, 20.2], [20, 20.2])).toBe('measure travel');
  });
  it('adcToC names open and short, and knows no temperature at the rails', () => {
    const at = (raw: number) => adcToC({ raw, bits: 12, pullupOhms: 4700, r25: 100_000, beta: 3950 });
    expect(at(4095)).toMatchObject({ verdict: 'open', c: null, ohms: null });
    expect(at(0)).toMatchObject({ verdict: 'short', c: null });
    expect(at(4086).verdict).toBe('fine');
    expect(at(4087).verdict).toBe('open');
  });
});

describe('probe', () => {
  it('left and front are negative, and zero is never minus zero', () => {
    expect(probeOffset({ side: 'left', sideMm: 38, face: 'back', faceMm: 9 })).toEqual({ x: -38, y: 9 });
    expect(Object.is(probeOffset({ side: 'left', sideMm: 0, face: 'front', faceMm: 0 }).x, 0)).toBe(true);
  });
  const square = { x: [0, 200] as [number, number], y: [0, 200] as [number, number] };
  it('reach is travel shifted by the offset, cut with the shrunk plate', () => {
    expect(probeReach({ travel: square, bed: square, offset: { x: -40, y: 0 }, marginMm: 10 })).toEqual({
      x: [10, 160],
      y: [10, 190],
      share: (150 * 180) / 40_000,
    });
  });
  it('is null when nothing is left', () => {
    expect(probeReach({ travel: square, bed: square, offset: { x: 190, y: 0 }, marginMm: 10 })).toBeNull();
  });
  it('never leaves the plate or the shifted travel', () => {
    const span = fc.tuple(fc.integer({ min: -50, max: 100 }), fc.integer({ min: 101, max: 400 }));
    const rectangle = fc.record({ x: span, y: span });
    fc.assert(
      fc.property(
        rectangle,
        rectangle,
        fc.integer({ min: -80, max: 80 }),
        fc.integer({ min: 0, max: 30 }),
        (travel, bed, x, marginMm) => {
          const reach = probeReach({ travel, bed, offset: { x, y: 0 }, marginMm });
          if (!reach) return;
          expect(reach.x[0]).toBeGreaterThanOrEqual(bed.x[0] + marginMm);
          expect(reach.x[1]).toBeLessThanOrEqual(travel.x[1] + x);
          expect(reach.share).toBeGreaterThan(0);
          expect(reach.share).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('cardName', () => {
  const any = { kind: 'any' as const, extension: 'BIN', ignoresRepeat: true, renames: true };
  it('is upper case 8.3 and never one used before', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 40 }),
        fc.integer({ min: 0, max: 60 }),
        (machine, times) => {
          const used: string[] = [];
          for (let i = 0; i <= times; i += 1) {
            const { name } = cardName({
              machine,
              date: '2026-11-24',
              used: used.map((entry) => entry.toLowerCase()),
              rule: any,
            });
            expect(name).toMatch(/^[A-Z0-9]{1,8}\.BIN$/);
            expect(used).not.toContain(name);
            used.push(name);
          }
        },
      ),
      { numRuns: 30 },
    );
  });
  it.each([
    ['IMAGE', 'IMAGE.BIN'],
    ['IMAGE.BIN', 'IMAGE.BIN'],
    ['image.bin', 'IMAGE.BIN'],
  ])('a fixed name written %s is the file %s, with one ending', (written, file) => {
    const rule = {
      kind: 'fixed' as const,
      name: written,
      extension: 'BIN',
      ignoresRepeat: false,
      renames: false,
    };
    expect(cardName({ machine: 'm', date: '2026-11-24', used: [], rule }).name.toUpperCase()).toBe(file);
  });
  it('a fixed name says when the board will ignore it', () => {
    const rule = {
      kind: 'fixed' as const,
      name: 'BOARD',
      extension: 'BIN',
      ignoresRepeat: true,
      renames: false,
    };
    expect(cardName({ machine: 'm', date: '2026-11-24', used: ['board.bin'], rule })).toEqual({
      name: 'BOARD.BIN',
      repeatIgnored: true,
    });
    expect(
      cardName({
        machine: 'm',
        date: '2026-11-24',
        used: ['board.bin'],
        rule: { ...rule, ignoresRepeat: false },
      }).repeatIgnored,
    ).toBe(false);
  });
});
