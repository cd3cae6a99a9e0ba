import type { Choice, Placement } from './placement';
import { searchPlacement } from './search';

/** Items that cannot all be placed, while without any one of them the others can. */
export interface Unplaceable {
  items: number[];
  /** Proven that no smaller set fails. */
  smallest: boolean;
}

/** After so many ways out a set that cannot be made smaller by leaving out one item has to do. */
const MOST_WAYS_OUT = 40;

/**
 * The smallest set of items that cannot all be placed, as their indices; undefined when all can. Smallest hitting
 * sets of what must give way are tried until one cannot be placed itself (Ignatiev and others, 2015): no smaller
 * set can fail, as each of those tried before leaves some known way out untouched. A case with very many ways out
 * gets a set that is not proven smallest.
 */
export function smallestUnmeetable(model: Placement): Unplaceable | undefined {
  /** Each is a set of items whose going away lets all others be placed. */
  const waysOut: number[][] = [];
  while (waysOut.length < MOST_WAYS_OUT) {
    const tried = smallestHittingSet(waysOut);
    const leftOut = fewestLeftOut(model, tried);
    if (!leftOut) return { items: tried, smallest: true };
    if (leftOut.length === 0) return undefined;
    waysOut.push(leftOut);
  }
  return { items: irreducible(model), smallest: false };
}

/** From all items, each is left out for good that the rest does not need to fail. */
function irreducible(model: Placement): number[] {
  return model.items.reduce<number[]>(
    (kept, _item, index) => {
      const without = kept.filter((item) => item !== index);
      const items = without.map((item) => ({ choices: model.items[item]!.choices.map(freeOfPrice) }));
      return searchPlacement({ ...model, items }) ? kept : without;
    },
    model.items.map((_item, index) => index),
  );
}

/** The fewest items to leave out so that all others can be placed, some kept for certain; undefined when even those cannot. */
function fewestLeftOut(model: Placement, kept: readonly number[]): number[] | undefined {
  const things =
    1 + Math.max(-1, ...model.items.flatMap(({ choices }) => choices.flatMap(({ takes }) => takes)));
  const items = model.items.map(({ choices }, item) => {
    const free = choices.map(freeOfPrice);
    return { choices: kept.includes(item) ? free : [...free, { price: 1, takes: [things + item] }] };
  });
  const found = searchPlacement({ ...model, items });
  return (
    found && model.items.flatMap(({ choices }, item) => (found.picks[item] === choices.length ? [item] : []))
  );
}

/** Prices do not matter to whether it can be done. */
const freeOfPrice = ({ takes, draws, mode }: Choice): Choice => ({
  price: 0,
  takes,
  ...(draws && { draws }),
  ...(mode && { mode }),
});

/** The fewest items that touch every set, by deepening search; among equals the first in order. */
export function smallestHittingSet(sets: readonly number[][]): number[] {
  for (let size = 0; ; size += 1) {
    const found = hit(sets, size, []);
    if (found) return found.sort((a, b) => a - b);
  }
}

function hit(sets: readonly number[][], size: number, chosen: number[]): number[] | undefined {
  const missed = sets.filter((set) => !set.some((item) => chosen.includes(item)));
  if (missed.length === 0) return chosen;
  if (chosen.length >= size || disjoint(missed) > size - chosen.length) return undefined;
  const shortest = missed.reduce((least, set) => (set.length < least.length ? set : least));
  for (const item of shortest) {
    const found = hit(sets, size, [...chosen, item]);
    if (found) return found;
  }
  return undefined;
}

/** How many of the sets share nothing: at least that many items are needed. */
function disjoint(sets: readonly number[][]): number {
  const used = new Set<number>();
  let count = 0;
  for (const set of [...sets].sort((a, b) => a.length - b.length)) {
    if (set.some((item) => used.has(item))) continue;
    for (const item of set) used.add(item);
    count += 1;
  }
  return count;
}
