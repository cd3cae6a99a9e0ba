import type { Choice, Placement } from './placement';

/** A placement laid out flat for the search: every choice of every item, item after item. */
export interface Layout {
  model: Placement;
  choices: Choice[];
  itemOf: Int32Array;
  /** Where an item's choices begin, and after the last item where they end. */
  firstOf: Int32Array;
  /** Column of each choice's principal thing in the assignment. */
  column: Int32Array;
  columns: number;
  /** What choice `at` takes: `takes[takesFrom[at]]` up to before `takes[takesFrom[at + 1]]`. */
  takes: Int32Array;
  takesFrom: Int32Array;
  /** Choices by the thing they take; things are numbered from 0. */
  takers: number[][];
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
  const columnOf = new Map<number, number>();
  const takers: number[][] = [];
  const column = choices.map(({ takes }, at) => {
    for (const take of takes) (takers[take] ??= []).push(at);
    const principal = takes[0]!;
    if (!columnOf.has(principal)) columnOf.set(principal, columnOf.size);
    return columnOf.get(principal)!;
  });
  const takesFrom = new Int32Array(choices.length + 1);
  choices.forEach(({ takes }, at) => (takesFrom[at + 1] = takesFrom[at]! + takes.length));
  for (let take = 0; take < takers.length; take += 1) takers[take] ??= [];
  return {
    model,
    choices,
    itemOf: Int32Array.from(itemOf),
    firstOf: Int32Array.from(firstOf),
    column: Int32Array.from(column),
    columns: columnOf.size,
    takes: Int32Array.from(choices.flatMap(({ takes }) => takes)),
    takesFrom,
    takers,
  };
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
