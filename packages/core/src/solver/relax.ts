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
  const { model, choices, itemOf, column, columns } = layout;
  const { left, worth } = node;
  const rows = model.items.length;
  const cost = new Float64Array(rows * columns);
  const choiceAt = new Int32Array(rows * columns);
  const price = new Float64Array(choices.length);
  const bearing = bearersOf(layout, node);
  const excess = new Float64Array(worth.length);
  for (let round = 1; ; round += 1) {
    const share = lossShares(layout, node, bearing);
    cost.fill(NEVER);
    for (let at = 0; at < choices.length; at += 1) {
      if (!left[at]) continue;
      price[at] = priceWithWorth(layout, worth, share, at);
      const cell = itemOf[at]! * columns + column[at]!;
      if (price[at]! >= cost[cell]!) continue;
      cost[cell] = price[at]!;
      choiceAt[cell] = at;
    }
    const found = assign(rows, columns, cost);
    if (!found) return undefined;
    const given = worth.reduce((sum, each) => sum + each, 0);
    const bound = found.total - given;
    const picks = found.columnOf.map((at, row) => choiceAt[row * columns + at]!);
    const legal = seen(picks);
    const limit = room();
    if (Math.ceil(bound - SLACK) >= limit) return undefined;
    for (let at = 0; at < choices.length; at += 1) {
      if (!left[at]) continue;
      const more = price[at]! - found.rowPrice[itemOf[at]!]! - found.columnPrice[column[at]!]!;
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
    for (const [item, pick] of picks.entries())
      for (const loss of choices[pick]!.loses ?? NO_LOSS) node.blame[loss * rows + item]! += 1;
  }
}

/** A choice's price, its share of what it gives up, and the worth of all it takes. */
function priceWithWorth(
  { model, choices, itemOf, takes, takesFrom, takers }: Layout,
  worth: Float64Array,
  share: Float64Array,
  at: number,
): number {
  const { price, draws, loses } = choices[at]!;
  let sum = price;
  for (let each = takesFrom[at]!; each < takesFrom[at + 1]!; each += 1) sum += worth[takes[each]!]!;
  if (draws)
    for (const { from, amount } of draws)
      sum += (worth[takers.length + from]! * amount) / model.capacities[from]!;
  if (loses) for (const loss of loses) sum += share[loss * model.items.length + itemOf[at]!]!;
  return sum;
}

/** Without a placement to compare with, the bound is taken to be about this far from the best price. */
const LONGEST_STEP = 12;
/** Picks that keep all rules are worth this many rounds before the node is parted. */
const PROVING_ROUNDS = 24;
const NONE: { from: number; amount: number }[] = [];
const NO_LOSS: number[] = [];

/** How far each thing and capacity is over what there is, or under it although it is worth something. */
function measureExcess(
  { model, choices, takers }: Layout,
  picks: Int32Array,
  excess: Float64Array,
  worth: Float64Array,
): number {
  excess.fill(-1);
  for (const pick of picks) {
    const { takes, draws } = choices[pick]!;
    for (const take of takes) excess[take]! += 1;
    for (const { from, amount } of draws ?? NONE)
      excess[takers.length + from]! += amount / model.capacities[from]!;
  }
  let length = 0;
  for (let at = 0; at < excess.length; at += 1) {
    if (excess[at]! <= 1e-9 && (worth[at] === 0 || Math.abs(excess[at]!) <= 1e-9)) excess[at] = 0;
    length += excess[at]! ** 2;
  }
  return length;
}

/** One byte a loss and item: the item has a choice left that causes the loss, which is not paid for yet. */
function bearersOf({ model, choices, itemOf }: Layout, { left, given }: Node): Uint8Array {
  const bears = new Uint8Array(model.losses.length * model.items.length);
  for (let at = 0; at < choices.length; at += 1) {
    if (!left[at]) continue;
    for (const loss of choices[at]!.loses ?? NO_LOSS)
      if (!given.has(loss)) bears[loss * model.items.length + itemOf[at]!] = 1;
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
