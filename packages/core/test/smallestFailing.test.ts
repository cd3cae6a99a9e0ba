import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { smallestFailing } from '../src/solver/smallestFailing';

/** Runs the search to its end; answers what it found and how often it tried. */
function found<T>(items: readonly T[], fails: (set: readonly T[]) => boolean) {
  const search = smallestFailing(items);
  let tries = 0;
  let next = search.next();
  while (!next.done) {
    tries += 1;
    next = search.next(fails(next.value));
  }
  return { set: [...next.value], tries };
}

describe('a smallest set of changes that fails', () => {
  it('is the culprit, or the two that break it only together', () => {
    const items = Array.from({ length: 24 }, (_, at) => at);
    expect(found(items, (set) => set.includes(17)).set).toEqual([17]);
    expect(found(items, (set) => set.includes(3) && set.includes(20)).set.sort((a, b) => a - b)).toEqual([
      3, 20,
    ]);
    expect(found([5], () => true)).toEqual({ set: [5], tries: 0 });
  });
  it('fails, and does not when any one of it is taken out; in few tries for one culprit among many', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.array(fc.array(fc.nat(39), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 4 }),
        (many, culprits) => {
          const items = Array.from({ length: many }, (_, at) => at);
          const within = culprits.map((group) => group.map((at) => at % many));
          const fails = (set: readonly number[]) =>
            within.some((group) => group.every((at) => set.includes(at)));
          const { set } = found(items, fails);
          expect(fails(set)).toBe(true);
          for (const one of set) expect(fails(set.filter((item) => item !== one))).toBe(false);
        },
      ),
    );
    const many = Array.from({ length: 64 }, (_, at) => at);
    for (const culprit of many)
      expect(found(many, (set) => set.includes(culprit)).tries).toBeLessThanOrEqual(12);
  });
});
