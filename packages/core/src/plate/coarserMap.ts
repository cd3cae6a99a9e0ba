import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import { type Heights, heightsKeys, rmsOf, spotsOf } from './heights';
import { heightAt } from './mapAt';

interface Input extends Heights {
  /** Every which line is kept; 1 to 50. */
  keep: number;
}
interface Output {
  /** The largest miss of all points, and the root of their mean square, mm. */
  worst: number;
  rms: number;
}

/** Places in a list of which every `keep`-th is kept, and the last. */
export const keptOf = (count: number, keep: number): number[] => {
  const kept = Array.from({ length: count }, (_, index) => index).filter((index) => index % keep === 0);
  return kept.at(-1) === count - 1 ? kept : [...kept, count - 1];
};

/** A map of some of another's lines only. */
export const thinned = ({ xs, ys, z }: Heights, columns: number[], rows: number[]): Heights => ({
  xs: columns.map((column) => xs[column] ?? 0),
  ys: rows.map((row) => ys[row] ?? 0),
  z: rows.map((row) => columns.map((column) => z[row]?.[column] ?? 0)),
});

/** How far a map misses, in between its lines, what a finer one knows. */
export function missOf(coarse: Heights, fine: Heights): Output {
  const misses = spotsOf(fine).map(({ x, y, z }) => Math.abs(heightAt(coarse, x, y) - z));
  return { worst: Math.max(...misses), rms: rmsOf(misses) };
}

/** How far a map of every `keep`-th line (the last always kept), filled bilinearly, misses the heights at all points. */
export const coarserMap = calculation<Input, Output>(
  'coarserMap',
  () => Joi.object({ ...heightsKeys(2), keep: Joi.number().integer().min(1).max(50) }),
  ({ keep, ...map }) => missOf(thinned(map, keptOf(map.xs.length, keep), keptOf(map.ys.length, keep)), map),
);
