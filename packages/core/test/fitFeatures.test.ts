import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Feature, fitFeatures, type Fitted } from '../src/solver/fitFeatures';

interface Case {
  features: Feature[];
  flashFree: number;
  ramFree: number;
}

/** Every set there is, looked through: the best by worth, flash, RAM, and the first list; undefined where none is allowed. */
function exhaustive({ features, flashFree, ramFree }: Case): Omit<Fitted, 'drop' | 'optimal'> | undefined {
  const sorted = [...features].sort((a, b) => (a.id < b.id ? -1 : 1));
  let best: Omit<Fitted, 'drop' | 'optimal'> | undefined;
  for (let mask = 0; mask < 2 ** sorted.length; mask += 1) {
    const kept = sorted.filter((_feature, index) => mask & (1 << index));
    const ids = new Set(kept.map(({ id }) => id));
    const total = (key: 'flash' | 'ram' | 'worth') => kept.reduce((sum, feature) => sum + feature[key], 0);
    const allowed =
      sorted.every(({ id, locked }) => !locked || ids.has(id)) &&
      kept.every(({ needs = [], excludes = [] }) => needs.every((id) => ids.has(id)) && !excludes.some((id) => ids.has(id))) &&
      total('flash') <= flashFree &&
      total('ram') <= ramFree;
    if (!allowed) continue;
    const one = { keep: [...ids], flash: total('flash'), ram: total('ram'), worth: total('worth') };
    if (!best || before(one, best)) best = one;
  } // prettier-ignore
  return best;
}

type One = Omit<Fitted, 'drop' | 'optimal'>;
function before(one: One, other: One): boolean {
  if (one.worth !== other.worth) return one.worth > other.worth;
  if (one.flash !== other.flash) return one.flash < other.flash;
  if (one.ram !== other.ram) return one.ram < other.ram;
  for (let at = 0; at < Math.min(one.keep.length, other.keep.length); at += 1) {
    const [a = '', b = ''] = [one.keep[at], other.keep[at]];
    if (a !== b) return a < b;
  }
  return one.keep.length < other.keep.length;
}

const ids = 'abcdefghij'.split('');
/** Whole numbers, small, so that ties are common. */
const anyCase = (most: number): fc.Arbitrary<Case> =>
  fc.integer({ min: 0, max: most }).chain((count) => {
    const of = ids.slice(0, count);
    const others = fc.subarray(of, { maxLength: Math.min(2, count) });
    const small = fc.integer({ min: 0, max: 6 });
    return fc.record({
      features: fc.tuple(
        ...of.map((id) =>
          fc
            .record({ flash: small, ram: small, worth: small, needs: others, excludes: others, locked: fc.boolean() })
            .map(({ locked, needs, excludes, ...sizes }) => ({
              id,
              ...sizes,
              needs: needs.filter((other) => other !== id),
              // Few exclude anything, or hardly a case would have a solution.
              excludes: excludes.filter((other) => other > id && sizes.flash > 3),
              locked: locked && sizes.ram > 4,
            })),
        ),
      ),
      flashFree: fc.integer({ min: 0, max: 20 }),
      ramFree: fc.integer({ min: 0, max: 20 }),
    });
  }); // prettier-ignore

describe('which features to keep', () => {
  it('is what looking through every set finds, ties too', () => {
    fc.assert(
      fc.property(anyCase(9), (given) => {
        const found = fitFeatures(given);
        const best = exhaustive(given);
        if ('infeasible' in found) {
          expect(best).toBeUndefined();
          return;
        }
        const { drop, optimal, ...rest } = found;
        expect(rest).toEqual(best);
        expect(optimal).toBe(true);
        expect([...found.keep, ...drop].sort()).toEqual(given.features.map(({ id }) => id).sort());
      }),
      { numRuns: 600 },
    );
  });
  it('keeps what is needed with what needs it, and never two that exclude each other', () => {
    const features: Feature[] = [
      { id: 'map', flash: 30, ram: 10, worth: 9, needs: ['probe'] },
      { id: 'probe', flash: 20, ram: 5, worth: 1 },
      { id: 'by-hand', flash: 10, ram: 2, worth: 8, excludes: ['probe'] },
    ];
    const all = fitFeatures({ features, flashFree: 50, ramFree: 15 });
    expect(all).toMatchObject({ keep: ['map', 'probe'], drop: ['by-hand'], worth: 10, flash: 50, ram: 15 });
    const less = fitFeatures({ features, flashFree: 49, ramFree: 15 });
    expect(less).toMatchObject({ keep: ['by-hand'], worth: 8 });
    expect(fitFeatures({ features: [], flashFree: 0, ramFree: 0 })).toMatchObject({ keep: [], worth: 0 });
  });
  it('what is locked and cannot be is said, with what is short', () => {
    const guard: Feature = { id: 'guard', flash: 40, ram: 8, worth: 0, locked: true, needs: ['clock'] };
    const features: Feature[] = [guard, { id: 'clock', flash: 10, ram: 1, worth: 0 }];
    expect(fitFeatures({ features, flashFree: 45, ramFree: 20 })).toEqual({
      infeasible: true, because: 'clock, guard must be kept, and 5 of flash too little is there', shortFlash: 5, shortRam: 0,
    }); // prettier-ignore
    expect(fitFeatures({ features, flashFree: 50, ramFree: 9 })).toMatchObject({ keep: ['clock', 'guard'] });
    const against = fitFeatures({ features: [{ ...guard, excludes: ['clock'] }, ...features.slice(1)], flashFree: 90, ramFree: 90 }); // prettier-ignore
    expect(against).toMatchObject({ infeasible: true, because: 'guard and clock must both be kept, and exclude each other', shortFlash: 0, shortRam: 0 }); // prettier-ignore
  });
  it('features that need each other go together, and a name that is nowhere is refused', () => {
    const pair: Feature[] = [
      { id: 'a', flash: 4, ram: 0, worth: 5, needs: ['b'] },
      { id: 'b', flash: 4, ram: 0, worth: 5, needs: ['a'] },
    ];
    expect(fitFeatures({ features: pair, flashFree: 7, ramFree: 1 })).toMatchObject({ keep: [] });
    expect(fitFeatures({ features: pair, flashFree: 8, ramFree: 1 })).toMatchObject({ keep: ['a', 'b'] });
    const stray = [{ id: 'a', flash: 1, ram: 1, worth: 1, needs: ['c'] }];
    expect(() => fitFeatures({ features: stray, flashFree: 1, ramFree: 1 })).toThrow('no feature "c"');
  });
  it('fractions tie as whole numbers do', () => {
    const features = [0.1, 0.2, 0.3].map((worth, index) => ({ id: `f${index}`, flash: 10 * (index + 1), ram: 0, worth })); // prettier-ignore
    expect(fitFeatures({ features, flashFree: 30, ramFree: 0 })).toMatchObject({
      keep: ['f0', 'f1'],
      flash: 30,
    });
  });
});
