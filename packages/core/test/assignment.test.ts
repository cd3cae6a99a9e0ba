import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assign, type Assigned, NEVER, type Pairs } from '../src/solver/assignment';

interface Given {
  pairs: Pairs;
  cost: Float64Array;
}

/** Rows with what each column costs them; nothing where they cannot go there. */
function laid(rows: readonly (readonly (number | undefined)[])[], columns: number): Given {
  const from = [0];
  const columnOf: number[] = [];
  const cost: number[] = [];
  for (const row of rows) {
    row.forEach((price, column) => {
      if (price === undefined) return;
      columnOf.push(column);
      cost.push(price);
    });
    from.push(cost.length);
  }
  return {
    pairs: { rows: rows.length, columns, from: Int32Array.from(from), columnOf: Int32Array.from(columnOf) },
    cost: Float64Array.from(cost),
  };
}

/** The least total by trying everything. */
function leastOf(rows: readonly (readonly (number | undefined)[])[], taken: readonly number[] = []): number {
  const [row, ...rest] = rows;
  if (!row) return 0;
  const totals = row.flatMap((price, column) =>
    price === undefined || price >= NEVER || taken.includes(column)
      ? []
      : [price + leastOf(rest, [...taken, column])],
  );
  return Math.min(...totals, Infinity);
}

const price = fc.option(
  fc.oneof(fc.integer({ min: 0, max: 30 }), fc.double({ min: 0, max: 30, noNaN: true }), fc.constant(NEVER)),
  { nil: undefined, freq: 3 },
);
const table = fc
  .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 6 }))
  .chain(([rows, columns]) =>
    fc.array(fc.array(price, { minLength: columns, maxLength: columns }), {
      minLength: rows,
      maxLength: rows,
    }),
  );

/** Holds something of every assignment there is of random tables. */
const ofEach = (seed: number, holds: (given: Given, found: Assigned) => void): void =>
  fc.assert(
    fc.property(table, (rows) => {
      const given = laid(rows, rows[0]?.length ?? 0);
      const found = assign(given.pairs, given.cost);
      if (found) holds(given, found);
    }),
    { numRuns: 500, seed },
  );

describe('the cheapest assignment', () => {
  it('costs what the cheapest of all costs, or there is none', () => {
    fc.assert(
      fc.property(table, (rows) => {
        const { pairs, cost } = laid(rows, rows[0]?.length ?? 0);
        const found = assign(pairs, cost);
        const least = leastOf(rows);
        if (least === Infinity) expect(found).toBeUndefined();
        else expect(found?.total).toBeCloseTo(least, 6);
      }),
      { numRuns: 1500, seed: 7 },
    );
  });
  it('gives each row a pair of its own row, and no column twice', () => {
    ofEach(8, ({ pairs }, { pairOf }) => {
      const columns = [...pairOf].map((pair, row) => {
        expect(pair).toBeGreaterThanOrEqual(pairs.from[row]!);
        expect(pair).toBeLessThan(pairs.from[row + 1]!);
        return pairs.columnOf[pair];
      });
      expect(new Set(columns).size).toBe(columns.length);
    });
  });
  it('comes with prices that prove it: no pair is cheaper than its row and column, and columns give nothing for free', () => {
    ofEach(9, ({ pairs, cost }, { rowPrice, columnPrice, total }) => {
      const sum = (list: Float64Array) => list.reduce((all, each) => all + each, 0);
      for (let row = 0; row < pairs.rows; row += 1)
        for (let pair = pairs.from[row]!; pair < pairs.from[row + 1]!; pair += 1) {
          if (cost[pair]! >= NEVER) continue;
          const proves = rowPrice[row]! + columnPrice[pairs.columnOf[pair]!]!;
          expect(proves).toBeLessThanOrEqual(cost[pair]! + 1e-6);
        }
      expect(Math.max(...columnPrice)).toBeLessThanOrEqual(1e-9);
      expect(sum(rowPrice) + sum(columnPrice)).toBeCloseTo(total, 6);
    });
  });
  it('is none for more rows than columns, or for a row that can go nowhere', () => {
    expect(assign(laid([[1], [2]], 1).pairs, laid([[1], [2]], 1).cost)).toBeUndefined();
    const nowhere = laid([[1, 2], [undefined, undefined]], 2); // prettier-ignore
    expect(assign(nowhere.pairs, nowhere.cost)).toBeUndefined();
  });
});
