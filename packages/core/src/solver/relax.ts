import { assign, NEVER } from './assignment';
import type { Layout, Node } from './layout';

/** Prices are whole: a bound just above a whole number proves the next one. */
const SLACK = 1e-6;

export interface Relaxed {
  /** One choice an item; rules other than that of the principal things may be broken. */
  picks: Int32Array;
  /** No other placement below this node costs less, when these picks keep all rules. */
  proven: boolean;
}

/**
 * Bounds what is below a node, by Lagrangian relaxation. Items are assigned to principal things (pins, sockets) at
 * least cost; that everything else goes once, and that capacities hold, is paid for instead: each such thing has a
 * worth that its takers pay and that is given back once (Held and Karp, 1971; step after Polyak). Each round moves
 * the worths towards what the picks took too often. On the way every choice is struck out that alone would cost the
 * whole room. A loss is borne by the items that could cause it, most by those that did so far. Undefined when nothing
 * below can cost less than `room`; `seen` is shown every round's picks and tells whether they keep all rules: then
 * some more rounds may prove them.
 */
export function relax(
  layout: Layout,
  node: Node,
  room: () => number,
  rounds: number,
  seen: (picks: Int32Array) => boolean,
): Relaxed | undefined {
  const { model, choices, itemOf, pairs, pairOf, loses, losesFrom } = layout;
  const { left, worth } = node;
  const rows = model.items.length;
  const cost = new Float64Array(pairs.columnOf.length);
  const choiceAt = new Int32Array(cost.length);
  const price = new Float64Array(choices.length);
  const bearing = bearersOf(layout, node);
  const excess = new Float64Array(worth.length);
  for (let round = 1; ; round += 1) {
    const share = lossShares(layout, node, bearing);
    cost.fill(NEVER);
    for (let at = 0; at < choices.length; at += 1) {
      if (!left[at]) continue;
      price[at] = priceWithWorth(layout, worth, share, at);
      const pair = pairOf[at]!;
      if (price[at]! >= cost[pair]!) continue;
      cost[pair] = price[at]!;
      choiceAt[pair] = at;
    }
    const found = assign(pairs, cost);
    if (!found) return undefined;
    const given = worth.reduce((sum, each) => sum + each, 0);
    const bound = found.total - given;
    const picks = found.pairOf.map((pair) => choiceAt[pair]!);
    const legal = seen(picks);
    const limit = room();
    if (Math.ceil(bound - SLACK) >= limit) return undefined;
    for (let at = 0; at < choices.length; at += 1) {
      if (!left[at]) continue;
      const more =
        price[at]! - found.rowPrice[itemOf[at]!]! - found.columnPrice[pairs.columnOf[pairOf[at]!]!]!;
      if (Math.ceil(bound + more - SLACK) >= limit) left[at] = 0;
    }
    const length = measureExcess(layout, picks, excess, worth);
    if (length === 0 || round >= (legal ? PROVING_ROUNDS : rounds)) return { picks, proven: length === 0 };
    const step = (Math.min(limit - bound, LONGEST_STEP) * 0.9) / length;
    for (let at = 0; at < worth.length; at += 1) {
      if (excess[at] === 0) continue;
      const moved = Math.max(0, worth[at]! + step * excess[at]!);
      worth[at] = moved < 1e-9 ? 0 : moved;
    }
    for (let item = 0; item < rows; item += 1) {
      const pick = picks[item]!;
      for (let each = losesFrom[pick]!; each < losesFrom[pick + 1]!; each += 1)
        node.blame[loses[each]! * rows + item]! += 1;
    }
  }
}

/** A choice's price, its share of what it gives up, and the worth of all it takes. */
function priceWithWorth(
  { model, choices, itemOf, takes, takesFrom, takers, draws, loses, losesFrom }: Layout,
  worth: Float64Array,
  share: Float64Array,
  at: number,
): number {
  let sum = choices[at]!.price;
  for (let each = takesFrom[at]!; each < takesFrom[at + 1]!; each += 1) sum += worth[takes[each]!]!;
  for (let each = draws.begin[at]!; each < draws.begin[at + 1]!; each += 1)
    sum += worth[takers.length + draws.from[each]!]! * draws.share[each]!;
  for (let each = losesFrom[at]!; each < losesFrom[at + 1]!; each += 1)
    sum += share[loses[each]! * model.items.length + itemOf[at]!]!;
  return sum;
}

/** Without a placement to compare with, the bound is taken to be about this far from the best price. */
const LONGEST_STEP = 12;
/** Picks that keep all rules are worth this many rounds before the node is parted. */
const PROVING_ROUNDS = 24;

/** How far each thing and capacity is over what there is, or under it although it is worth something. */
function measureExcess(
  { takers, takes, takesFrom, draws }: Layout,
  picks: Int32Array,
  excess: Float64Array,
  worth: Float64Array,
): number {
  excess.fill(-1);
  for (const pick of picks) {
    for (let each = takesFrom[pick]!; each < takesFrom[pick + 1]!; each += 1) excess[takes[each]!]! += 1;
    for (let each = draws.begin[pick]!; each < draws.begin[pick + 1]!; each += 1)
      excess[takers.length + draws.from[each]!]! += draws.share[each]!;
  }
  let length = 0;
  for (let at = 0; at < excess.length; at += 1) {
    if (excess[at]! <= 1e-9 && (worth[at] === 0 || Math.abs(excess[at]!) <= 1e-9)) excess[at] = 0;
    length += excess[at]! ** 2;
  }
  return length;
}

/** One byte a loss and item: the item has a choice left that causes the loss, which is not paid for yet. */
function bearersOf({ model, choices, itemOf, loses, losesFrom }: Layout, { left, given }: Node): Uint8Array {
  const bears = new Uint8Array(model.losses.length * model.items.length);
  for (let at = 0; at < choices.length; at += 1) {
    if (!left[at]) continue;
    for (let each = losesFrom[at]!; each < losesFrom[at + 1]!; each += 1)
      if (!given.has(loses[each]!)) bears[loses[each]! * model.items.length + itemOf[at]!] = 1;
  }
  return bears;
}

/** A loss still open is borne by all items that could cause it, as they are to blame: together what it costs. */
function lossShares({ model }: Layout, { blame }: Node, bears: Uint8Array): Float64Array {
  const items = model.items.length;
  const shares = new Float64Array(bears.length);
  model.losses.forEach((price, loss) => {
    let total = 0;
    for (let at = loss * items; at < (loss + 1) * items; at += 1) if (bears[at]) total += blame[at]!;
    for (let at = loss * items; at < (loss + 1) * items; at += 1)
      if (bears[at]) shares[at] = (price * blame[at]!) / total;
  });
  return shares;
}
