import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { searchPlacement } from '../src/solver/search';
import { smallestHittingSet, smallestUnmeetable } from '../src/solver/unmeetable';
import { type Placement, priceOf, violations } from '../src/solver/placement';

const THINGS = 6;
const choice = fc.record({
  price: fc.nat(9),
  takes: fc.uniqueArray(fc.nat(THINGS - 1), { minLength: 1, maxLength: 2 }),
  draws: fc.option(fc.array(fc.record({ from: fc.nat(1), amount: fc.integer({ min: 1, max: 4 }) }), { maxLength: 1 }), { nil: undefined }),
  mode: fc.option(fc.record({ group: fc.nat(1), is: fc.nat(2) }), { nil: undefined }),
  loses: fc.option(fc.uniqueArray(fc.nat(1), { maxLength: 2 }), { nil: undefined }),
}); // prettier-ignore
const model = fc.record({
  items: fc.array(fc.record({ choices: fc.array(choice, { minLength: 1, maxLength: 4 }) }), { minLength: 1, maxLength: 5 }),
  capacities: fc.tuple(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 8 })),
  losses: fc.tuple(fc.nat(9), fc.nat(9)),
}) as fc.Arbitrary<Placement>; // prettier-ignore

/** Every way of giving each item one of its choices. */
function* all({ items }: Placement): Generator<number[]> {
  const picks = items.map(() => 0);
  for (;;) {
    yield [...picks];
    let at = 0;
    while (at < picks.length && ++picks[at]! === items[at]!.choices.length) picks[at++] = 0;
    if (at === picks.length) return;
  }
}
const legal = (placement: Placement) =>
  [...all(placement)].filter((picks) => violations(placement, picks).length === 0);
const only = (placement: Placement, items: readonly number[]): Placement => ({
  ...placement,
  items: items.map((item) => placement.items[item]!),
});
const subsets = (count: number) =>
  Array.from({ length: 2 ** count }, (_, bits) =>
    Array.from({ length: count }, (_none, item) => item).filter((item) => bits & (1 << item)),
  );

describe('the harness search', () => {
  it('finds the cheapest of all legal placements, or that there is none', () => {
    fc.assert(
      fc.property(model, (placement) => {
        const prices = legal(placement).map((picks) => priceOf(placement, picks));
        const found = searchPlacement(placement);
        if (prices.length === 0) return found === undefined;
        return (
          found !== undefined &&
          violations(placement, found.picks).length === 0 &&
          found.price === Math.min(...prices) &&
          priceOf(placement, found.picks) === found.price
        );
      }),
      { numRuns: 600 },
    );
  });
  it('an item without a choice cannot be placed', () => {
    expect(searchPlacement({ items: [{ choices: [] }], capacities: [], losses: [] })).toBeUndefined();
  });
});

describe('what cannot be met', () => {
  it('is the smallest set of items that have no placement together, or nothing when all have', () => {
    fc.assert(
      fc.property(model, (placement) => {
        const failing = subsets(placement.items.length).filter(
          (items) => legal(only(placement, items)).length === 0,
        );
        const smallest = failing.reduce<number>((least, items) => Math.min(least, items.length), Infinity);
        const found = smallestUnmeetable(placement);
        if (failing.length === 0) return found === undefined;
        return (
          found !== undefined &&
          found.smallest &&
          found.items.length === smallest &&
          legal(only(placement, found.items)).length === 0
        );
      }),
      { numRuns: 300 },
    );
  });
  it('a smallest hitting set touches every set, and none smaller does', () => {
    const sets = fc.array(fc.uniqueArray(fc.nat(6), { minLength: 1, maxLength: 4 }), { maxLength: 6 });
    fc.assert(
      fc.property(sets, (list) => {
        const touches = (chosen: number[]) => list.every((set) => set.some((item) => chosen.includes(item)));
        const found = smallestHittingSet(list);
        return touches(found) && subsets(7).every((other) => other.length >= found.length || !touches(other));
      }),
    );
  });
});
