import { type BedMap, bedMapSchema } from '../machine/bedMap';
import { heightAt } from '../plate/mapAt';
import { csv } from '../text/csv';

/** A map as CSV: x across the first row, y down the first column, heights in mm between; rows from front to back. */
export const mapAsCsv = ({ xs, ys, z }: BedMap): string =>
  csv([['y \\ x', ...xs.map(String)], ...ys.map((y, row) => [y, ...(z[row] ?? [])].map(String))]);

/** Longest text that is read as a map: 15 × 15 heights take far less. */
const LONGEST = 20_000;

/** Reads such a map; commas, semicolons or tabs part its cells, and with semicolons a comma may be the decimal sign. */
export function readMapCsv(text: string): { map: BedMap } | { problem: string } {
  if (text.length > LONGEST) return { problem: `longer than ${LONGEST} characters, which no map is` };
  const sign = text.includes(';') ? ';' : text.includes('\t') ? '\t' : ',';
  const rows = text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .map((line) => line.split(sign).map((cell) => cell.trim().replace(/^"|"$/g, '')))
    .filter((cells) => cells.some((cell) => cell !== ''));
  const [head, ...body] = rows;
  if (!head || body.length === 0)
    return { problem: 'a map has a row of x and, below it, a row for each y; none was found' };
  for (const [row, cells] of rows.entries())
    for (const [column, cell] of cells.entries())
      if ((row > 0 || column > 0) && numberOf(cell, sign) === undefined)
        return {
          problem: `row ${row + 1}, column ${column + 1}: “${cell.slice(0, 20)}” is no number of mm${cell === '' ? '; a map may have no holes' : ''}`,
        };
  const number = (cell: string) => numberOf(cell, sign) ?? 0;
  const map = {
    xs: head.slice(1).map(number),
    ys: body.map(([y = '']) => number(y)),
    z: body.map(([, ...cells]) => cells.map(number)),
  };
  const { error } = bedMapSchema().validate(map, { convert: false });
  return error ? { problem: error.message } : { map };
}

function numberOf(cell: string, sign: string): number | undefined {
  const plain = sign === ',' ? cell : cell.replace(',', '.');
  return /^[-+−]?\d+(\.\d+)?$/.test(plain) ? Number(plain.replace('−', '-')) : undefined;
}

/** The map of a plate that lies turned by half a turn. */
export const turnedAbout = ({ xs, ys, z }: BedMap): BedMap => ({
  xs: [...xs].reverse().map((x) => (xs[0] ?? 0) + (xs.at(-1) ?? 0) - x),
  ys: [...ys].reverse().map((y) => (ys[0] ?? 0) + (ys.at(-1) ?? 0) - y),
  z: [...z].reverse().map((row) => [...row].reverse()),
});

/** What one map has more than another at its own points, their means taken out; and the largest difference, mm. */
export function mapDifference(one: BedMap, other: BedMap): { map: BedMap; worst: number } {
  const raw = one.ys.map((y, row) => one.xs.map((x, column) => (one.z[row]?.[column] ?? 0) - heightAt(other, x, y)));
  const mean = raw.flat().reduce((sum, value) => sum + value, 0) / (one.xs.length * one.ys.length);
  const z = raw.map((row) => row.map((value) => Number((value - mean).toFixed(4))));
  return { map: { xs: one.xs, ys: one.ys, z }, worst: Math.max(...z.flat().map(Math.abs)) };
} // prettier-ignore
