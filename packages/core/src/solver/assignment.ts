/** Stands for "cannot": larger than any price, small enough to add up. */
export const NEVER = 1e9;

/** An assignment with the prices that prove it: no pair costs less than its row's and column's price together. */
export interface Assigned {
  columnOf: Int32Array;
  total: number;
  rowPrice: Float64Array;
  columnPrice: Float64Array;
}

/**
 * Cheapest assignment of every row to a column of its own, by shortest augmenting paths (Jonker and Volgenant,
 * 1987). `cost` holds rows × columns, row after row. Gives the column of each row, or undefined when there is none
 * without a forbidden pair. O(rows² · columns).
 */
export function assign(rows: number, columns: number, cost: Float64Array): Assigned | undefined {
  if (rows > columns) return undefined;
  const rowPrice = new Float64Array(rows + 1);
  const columnPrice = new Float64Array(columns + 1);
  const rowAt = new Int32Array(columns + 1);
  const way = new Int32Array(columns + 1);
  const shortest = new Float64Array(columns + 1);
  const seen = new Uint8Array(columns + 1);
  const open = startGreedily(rows, columns, cost, rowPrice, rowAt);
  for (const row of open) {
    rowAt[0] = row;
    shortest.fill(Infinity);
    seen.fill(0);
    let at = 0;
    do {
      seen[at] = 1;
      const from = rowAt[at]!;
      const base = (from - 1) * columns - 1;
      const price = rowPrice[from]!;
      let step = Infinity;
      let next = 0;
      for (let column = 1; column <= columns; column += 1) {
        if (seen[column]) continue;
        const reduced = cost[base + column]! - price - columnPrice[column]!;
        if (reduced < shortest[column]!) {
          shortest[column] = reduced;
          way[column] = at;
        }
        if (shortest[column]! < step) {
          step = shortest[column]!;
          next = column;
        }
      }
      if (step >= NEVER / 2) return undefined;
      for (let column = 0; column <= columns; column += 1) {
        if (seen[column]) {
          rowPrice[rowAt[column]!]! += step;
          columnPrice[column]! -= step;
        } else shortest[column]! -= step;
      }
      at = next;
    } while (rowAt[at] !== 0);
    while (at !== 0) {
      rowAt[at] = rowAt[way[at]!]!;
      at = way[at]!;
    }
  }
  const columnOf = new Int32Array(rows);
  let total = 0;
  for (let column = 1; column <= columns; column += 1) {
    const row = rowAt[column]!;
    if (row === 0) continue;
    columnOf[row - 1] = column - 1;
    total += cost[(row - 1) * columns + column - 1]!;
  }
  if (total >= NEVER / 2) return undefined;
  return { columnOf, total, rowPrice: rowPrice.subarray(1), columnPrice: columnPrice.subarray(1) };
}

/** Gives every row its cheapest column where that is free, and its price; returns the rows that got none. */
function startGreedily(
  rows: number,
  columns: number,
  cost: Float64Array,
  rowPrice: Float64Array,
  rowAt: Int32Array,
): number[] {
  const open: number[] = [];
  for (let row = 1; row <= rows; row += 1) {
    const base = (row - 1) * columns - 1;
    let cheapest = 1;
    for (let column = 2; column <= columns; column += 1)
      if (cost[base + column]! < cost[base + cheapest]!) cheapest = column;
    rowPrice[row] = cost[base + cheapest]!;
    if (rowAt[cheapest] === 0) rowAt[cheapest] = row;
    else open.push(row);
  }
  return open;
}
