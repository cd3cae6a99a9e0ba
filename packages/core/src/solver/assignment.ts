/** Stands for "cannot": larger than any price, small enough to add up. */
export const NEVER = 1e9;

/** The pairs of a row and a column that there are, row after row; no pair is there twice. */
export interface Pairs {
  rows: number;
  columns: number;
  /** A row's pairs are `from[row]` up to before `from[row + 1]`. */
  from: Int32Array;
  columnOf: Int32Array;
}

/** An assignment with the prices that prove it: no pair costs less than its row's and column's price together. */
export interface Assigned {
  /** The pair of each row. */
  pairOf: Int32Array;
  total: number;
  rowPrice: Float64Array;
  columnPrice: Float64Array;
}

/**
 * Cheapest assignment of every row to a column of its own, by shortest augmenting paths (Jonker and Volgenant,
 * 1987) over the pairs there are. `cost` is that of each pair; one of NEVER is forbidden. Undefined when there is no
 * assignment. O(rows · (pairs + columns · rows)).
 */
export function assign({ rows, columns, from, columnOf }: Pairs, cost: Float64Array): Assigned | undefined {
  if (rows > columns) return undefined;
  const rowPrice = new Float64Array(rows);
  const columnPrice = new Float64Array(columns);
  const pairOf = new Int32Array(rows).fill(-1);
  const rowAt = new Int32Array(columns).fill(-1);
  const open = startGreedily({ rows, columns, from, columnOf }, cost, { rowPrice, pairOf, rowAt });
  if (!open) return undefined;
  const far = new Float64Array(columns);
  const viaPair = new Int32Array(columns);
  const viaRow = new Int32Array(columns);
  // Columns that are reached: first those whose way is known to be shortest, then the others.
  const reached = new Int32Array(columns);
  const isKnown = new Uint8Array(columns);
  for (const start of open) {
    far.fill(Infinity);
    isKnown.fill(0);
    let known = 0;
    let count = 0;
    let row = start;
    let way = 0;
    let end = -1;
    while (end < 0) {
      const price = rowPrice[row]!;
      for (let pair = from[row]!; pair < from[row + 1]!; pair += 1) {
        const column = columnOf[pair]!;
        if (isKnown[column] || cost[pair]! >= NEVER) continue;
        const length = way + cost[pair]! - price - columnPrice[column]!;
        if (length >= far[column]!) continue;
        if (far[column] === Infinity) reached[count++] = column;
        far[column] = length;
        viaPair[column] = pair;
        viaRow[column] = row;
      }
      let next = -1;
      let at = -1;
      for (let each = known; each < count; each += 1) {
        const column = reached[each]!;
        if (next >= 0 && (far[column]! > far[next]! || (far[column] === far[next] && column > next)))
          continue;
        next = column;
        at = each;
      }
      if (next < 0) return undefined;
      way = far[next]!;
      if (rowAt[next]! < 0) end = next;
      else {
        row = rowAt[next]!;
        isKnown[next] = 1;
        reached[at] = reached[known]!;
        reached[known++] = next;
      }
    }
    rowPrice[start]! += way;
    for (let each = 0; each < known; each += 1) {
      const column = reached[each]!;
      const less = way - far[column]!;
      columnPrice[column]! -= less;
      rowPrice[rowAt[column]!]! += less;
    }
    for (let column = end, at = -1; at !== start;) {
      at = viaRow[column]!;
      const left = pairOf[at]!;
      rowAt[column] = at;
      pairOf[at] = viaPair[column]!;
      if (left >= 0) column = columnOf[left]!;
    }
  }
  return { pairOf, total: pairOf.reduce((sum, pair) => sum + cost[pair]!, 0), rowPrice, columnPrice };
}

/** Gives every row its cheapest column where that is free, and its price; the rows that got none, or undefined where a row has no pair. */
function startGreedily(
  { rows, from, columnOf }: Pairs,
  cost: Float64Array,
  { rowPrice, pairOf, rowAt }: { rowPrice: Float64Array; pairOf: Int32Array; rowAt: Int32Array },
): number[] | undefined {
  const open: number[] = [];
  for (let row = 0; row < rows; row += 1) {
    let cheapest = -1;
    let least = NEVER;
    for (let pair = from[row]!; pair < from[row + 1]!; pair += 1)
      if (cost[pair]! < least) {
        cheapest = pair;
        least = cost[pair]!;
      }
    if (cheapest < 0) return undefined;
    rowPrice[row] = least;
    const column = columnOf[cheapest]!;
    if (rowAt[column]! >= 0) open.push(row);
    else {
      rowAt[column] = row;
      pairOf[row] = cheapest;
    }
  }
  return open;
}
