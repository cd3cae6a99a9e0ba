import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CalcError, type Calculation } from '../src/calculation/calculation';
import { adcToC, thermistorC, thermistorOhms } from '../src/heat/thermistor';
import { calculations } from '../src/calc/calculations';
import { crc32, crc32Of } from '../src/bytes/crc32';
import { crossBeltDirections } from '../src/motion/crossBeltDirections';
import { extruderSteps } from '../src/motion/extruderSteps';
import { fromBase64, toBase64 } from '../src/bytes/base64';
import { probeReach } from '../src/probe/probeReach';
import { stepsPerMm } from '../src/motion/stepsPerMm';
import { topSpeed } from '../src/motion/topSpeed';

describe('bad input', () => {
  it.each([
    [stepsPerMm, { kind: 'belt', fullSteps: 200, microsteps: 16, pitchMm: 0, teeth: 20 }, 'pitchMm'],
    [stepsPerMm, { kind: 'screw', fullSteps: 200, microsteps: 16, pitchMm: 2, teeth: 20 }, 'leadMm'],
    [stepsPerMm, { kind: 'chain', fullSteps: 200 }, 'kind'],
    [topSpeed, { stepsPerMm: Number.NaN, stepRateHz: 1 }, 'stepsPerMm'],
    [topSpeed, { stepsPerMm: 1, stepRateHz: Infinity }, 'stepRateHz'],
    [topSpeed, { stepsPerMm: '80', stepRateHz: 1000 }, 'stepsPerMm'],
    [topSpeed, { stepsPerMm: 80, stepRateHz: 1000, extra: 1 }, 'extra'],
    [extruderSteps, { currentStepsPerMm: 400, askedMm: 100, markMm: 120, leftMm: 120 }, 'leftMm'],
    [
      crossBeltDirections,
      {
        observed: [
          { asked: '+x', moved: '+x' },
          { asked: '-x', moved: '-x' },
        ],
      },
      'observed',
    ],
    [adcToC, { raw: 4096, bits: 12, pullupOhms: 4700, r25: 1e5, beta: 3950 }, 'raw'],
    [
      probeReach,
      {
        travel: { x: [10, 0], y: [0, 10] },
        bed: { x: [0, 10], y: [0, 10] },
        offset: { x: 0, y: 0 },
        marginMm: 0,
      },
      'travel.x',
    ],
    [crc32, { base64: '***' }, 'base64'],
  ] as [Calculation<unknown, unknown>, unknown, string][])(
    '%o is refused at its key',
    (calculation, input, key) => {
      try {
        calculation(input);
        expect.unreachable('it was accepted');
      } catch (error) {
        expect(error).toBeInstanceOf(CalcError);
        expect((error as CalcError).key).toBe(key);
        expect((error as CalcError).message.length).toBeGreaterThan(10);
      }
    },
  );
  it('never throws anything but CalcError, whatever it is given', () => {
    fc.assert(
      fc.property(fc.constantFrom(...calculations.values()), fc.jsonValue(), (calculation, input) => {
        try {
          calculation(input);
        } catch (error) {
          expect(error).toBeInstanceOf(CalcError);
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe('base64 and thermistor round trips', () => {
  it('bytes survive', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect([...fromBase64(toBase64(bytes))]).toEqual([...bytes]);
      }),
    );
  });
  it('a flipped bit changes the CRC', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 64 }),
        fc.nat(),
        fc.integer({ min: 0, max: 7 }),
        (bytes, at, bit) => {
          const other = Uint8Array.from(bytes);
          other[at % bytes.length]! ^= 1 << bit;
          expect(crc32Of(other)).not.toBe(crc32Of(bytes));
        },
      ),
    );
  });
  it('ohms and degrees are inverses', () => {
    fc.assert(
      fc.property(fc.double({ min: -40, max: 350, noNaN: true }), (c) => {
        const sensor = { r25: 100_000, beta: 3950 };
        expect(thermistorC({ ohms: thermistorOhms(sensor, c), ...sensor })).toBeCloseTo(c, 6);
      }),
    );
  });
});
