import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Filament } from '../src/plant/filament';

const HOT_C = 200;
/** What a hot end of 200 °C lets through, mm/s: the product of what filament.ts says of melting. */
const MOST = 4.5;

/** Feeds evenly for so many seconds, in turns of the wheel at the given shares of the time. */
function fedEvenly(mmPerS: number, seconds: number, at: readonly number[], hotendC = HOT_C): Filament {
  const filament = new Filament();
  let before = 0;
  for (const share of [...at, 1].toSorted((a, b) => a - b)) {
    const now = share * seconds;
    if (now > before) filament.feed(mmPerS * (now - before), hotendC, 100 + now);
    before = now;
  }
  return filament;
}

describe('filament', () => {
  it('below what melts nothing slips, however rarely the wheel turns', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 200 }),
        fc.double({ min: 0.1, max: MOST - 0.1, noNaN: true }),
        (at, speed) => {
          const filament = fedEvenly(speed, 10, at);
          expect(filament.slipped()).toBeLessThan(1e-9);
          expect(filament.fed()).toBeCloseTo(speed * 10, 6);
        },
      ),
      { seed: 5 },
    );
  });
  it('what is more slips, and cold all of it', () => {
    const steady = Array.from({ length: 1000 }, (_, step) => step / 1000);
    const filament = fedEvenly(2 * MOST, 1, steady);
    expect(filament.fed()).toBeGreaterThan(MOST);
    expect(filament.fed()).toBeLessThan(MOST * 1.3);
    expect(filament.fed() + filament.slipped()).toBeCloseTo(2 * MOST, 6);
    expect(fedEvenly(1, 10, steady, 20).fed()).toBe(0);
  });
});
