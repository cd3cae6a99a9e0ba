import type { Pairs } from './assignment';
import type { Choice, Placement } from './placement';

/** A placement laid out flat for the search: every choice of every item, item after item. */
export interface Layout {
  model: Placement;
  choices: Choice[];
  itemOf: Int32Array;
  /** Where an item's choices begin, and after the last item where they end. */
  firstOf: Int32Array;
  /** Items and principal things that some choice brings together, and the pair of each choice. */
  pairs: Pairs;
  pairOf: Int32Array;
  /** What choice `at` takes: `takes[takesFrom[at]]` up to before `takes[takesFrom[at + 1]]`. */
  takes: Int32Array;
  takesFrom: Int32Array;
  /** Choices by the thing they take; things are numbered from 0. */
  takers: number[][];
  /** What choice `at` draws: `share` of capacity `from`, the same way. */
  draws: { from: Int32Array; amount: Float64Array; share: Float64Array; begin: Int32Array };
  /** What choice `at` gives up, the same way. */
  loses: Int32Array;
  losesFrom: Int32Array;
}

export function layOut(model: Placement): Layout {
  const choices: Choice[] = [];
  const itemOf: number[] = [];
  const firstOf: number[] = [];
  model.items.forEach((item, index) => {
    firstOf.push(choices.length);
    for (const choice of item.choices) {
      choices.push(choice);
      itemOf.push(index);
    }
  });
  firstOf.push(choices.length);
  const takers: number[][] = [];
  choices.forEach(({ takes }, at) => {
    for (const take of takes) (takers[take] ??= []).push(at);
  });
  for (let take = 0; take < takers.length; take += 1) takers[take] ??= [];
  const [takes, takesFrom] = laidFlat(choices, (choice) => choice.takes);
  const [loses, losesFrom] = laidFlat(choices, ({ loses }) => loses);
  const [drawn, begin] = laidFlat(choices, ({ draws }) => draws);
  return {
    model,
    choices,
    itemOf: Int32Array.from(itemOf),
    firstOf: Int32Array.from(firstOf),
    ...pairsOf(choices, firstOf),
    takes: Int32Array.from(takes),
    takesFrom,
    takers,
    draws: {
      from: Int32Array.from(drawn, ({ from }) => from),
      amount: Float64Array.from(drawn, ({ amount }) => amount),
      share: Float64Array.from(drawn, ({ from, amount }) => amount / model.capacities[from]!),
      begin,
    },
    loses: Int32Array.from(loses),
    losesFrom,
  };
}

/** What every choice has of something, one after another, and where each one's begins. */
function laidFlat<Each>(
  choices: readonly Choice[],
  has: (choice: Choice) => readonly Each[] | undefined,
): [all: Each[], from: Int32Array] {
  const all: Each[] = [];
  const from = new Int32Array(choices.length + 1);
  choices.forEach((choice, at) => {
    const own = has(choice);
    if (own) all.push(...own);
    from[at + 1] = all.length;
  });
  return [all, from];
}

/** The pairs of items and their choices' principal things, those of an item in the order of the things. */
function pairsOf(choices: readonly Choice[], firstOf: readonly number[]): Pick<Layout, 'pairs' | 'pairOf'> {
  const columns = new Map<number, number>();
  for (const { takes } of choices) if (!columns.has(takes[0]!)) columns.set(takes[0]!, columns.size);
  const columnOf: number[] = [];
  const from = new Int32Array(firstOf.length);
  const pairOf = new Int32Array(choices.length);
  const pairAt = new Int32Array(columns.size);
  for (let item = 0; item + 1 < firstOf.length; item += 1) {
    const own = new Set<number>();
    for (let at = firstOf[item]!; at < firstOf[item + 1]!; at += 1)
      own.add(columns.get(choices[at]!.takes[0]!)!);
    for (const column of [...own].sort((a, b) => a - b)) {
      pairAt[column] = columnOf.length;
      columnOf.push(column);
    }
    for (let at = firstOf[item]!; at < firstOf[item + 1]!; at += 1)
      pairOf[at] = pairAt[columns.get(choices[at]!.takes[0]!)!]!;
    from[item + 1] = columnOf.length;
  }
  const pairs = {
    rows: firstOf.length - 1,
    columns: columns.size,
    from,
    columnOf: Int32Array.from(columnOf),
  };
  return { pairs, pairOf };
}

/** What is still open at one place of the search. */
export interface Node {
  /** One byte a choice: left or struck out. */
  left: Uint8Array;
  /** Losses given up, which are paid for; those to be kept have their choices struck out. */
  given: ReadonlySet<number>;
  /** What each thing, then each capacity, is worth here; see relax. */
  worth: Float64Array;
  /** How much of each loss an item is blamed for, loss after loss; see relax. */
  blame: Float64Array;
}

export function firstNode({ choices, takers, model }: Layout): Node {
  return {
    left: new Uint8Array(choices.length).fill(1),
    given: new Set(),
    worth: new Float64Array(takers.length + model.capacities.length),
    blame: new Float64Array(model.losses.length * model.items.length).fill(1),
  };
}

/** The node with some choices struck out. */
export function without(node: Node, struck: (at: number) => boolean): Node {
  const left = node.left.slice();
  for (let at = 0; at < left.length; at += 1) if (left[at] && struck(at)) left[at] = 0;
  return { left, given: node.given, worth: node.worth.slice(), blame: node.blame.slice() };
}
