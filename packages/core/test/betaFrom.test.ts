import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { betaFrom } from '../src/heat/betaFrom';

/** What a thermistor has at a temperature. */
const ohmsAt = (r25: number, beta: number, c: number) =>
  r25 * Math.exp(beta * (1 / (c + 273.15) - 1 / 298.15));

describe('R25 and β out of measured points', () => {
  it('are those the points were made of, however many they are', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1000, max: 500_000, noNaN: true }),
        fc.double({ min: 2500, max: 5000, noNaN: true }),
        fc.uniqueArray(fc.integer({ min: -20, max: 250 }), { minLength: 2, maxLength: 8 }),
        (r25, beta, temperatures) => {
          // Two readings a degree apart say little; a person measures farther apart.
          fc.pre(Math.max(...temperatures) - Math.min(...temperatures) >= 5);
          const points = temperatures.map((c) => ({ ohms: ohmsAt(r25, beta, c), c }));
          const found = betaFrom({ points });
          expect(found.r25 / r25).toBeCloseTo(1, 6);
          expect(found.beta / beta).toBeCloseTo(1, 6);
          expect(found.errorC).toBeLessThan(1e-3);
        },
      ),
    );
  });
  it('a meter that is a little off leaves an error that is told, in degrees', () => {
    const points = [0, 25, 60].map((c) => ({ ohms: ohmsAt(100_000, 3950, c) * (c === 25 ? 1.05 : 1), c }));
    const { errorC, r25 } = betaFrom({ points });
    expect(errorC).toBeGreaterThan(0.3);
    expect(errorC).toBeLessThan(2);
    expect(r25 / 100_000).toBeCloseTo(1, 1);
  });
  it('what cannot be a thermistor of this kind is refused in words', () => {
    const point = { ohms: 10_000, c: 25 };
    expect(() => betaFrom({ points: [point, point] })).toThrow('two temperatures at least');
    expect(() => betaFrom({ points: [point, { ohms: 12_000, c: 60 }] })).toThrow('fall as it warms');
    expect(() => betaFrom({ points: [point] })).toThrow('points');
    expect(() => betaFrom({ points: [point, { ohms: 0, c: 60 }] })).toThrow('ohms');
    expect(() => betaFrom({ points: [point, { ohms: 100, c: 4000 }] })).toThrow('c');
  });
});
