import Joi from 'joi';
import { atLeastZero, calculation, CalcError, finite, positive } from '../calculation/calculation';
import { type Heights, heightsKeys } from './heights';

interface Input extends Heights {
  x: number;
  y: number;
  /** Height of the nozzle, and the height at which the map no longer acts; both or none. */
  atZ?: number;
  fadeMm?: number;
}

/** The cell of rising lines that a place lies in, and how far across it, 0 to 1; outside it is clamped. */
function cellOf(lines: readonly number[], at: number): { low: number; share: number } {
  const last = lines.length - 1;
  if (last === 0) return { low: 0, share: 0 };
  const above = lines.findIndex((line) => line > at);
  const low = above < 0 ? last - 1 : Math.max(0, above - 1);
  const [from, to] = [lines[low] ?? 0, lines[low + 1] ?? 1];
  return { low, share: Math.min(1, Math.max(0, (at - from) / (to - from))) };
}

/** Height of a map at a place, bilinear in its cell, clamped outside; mm. Nothing is checked. */
export function heightAt({ xs, ys, z }: Heights, x: number, y: number): number {
  const [column, row] = [cellOf(xs, x), cellOf(ys, y)];
  const corner = (right: number, back: number) => {
    const line = z[Math.min(row.low + back, ys.length - 1)];
    return line?.[Math.min(column.low + right, xs.length - 1)] ?? 0;
  };
  const along = (back: number) => corner(0, back) + column.share * (corner(1, back) - corner(0, back));
  return along(0) + row.share * (along(1) - along(0));
}

/**
 * What a map adds at a place, mm: bilinear, clamped outside, fading linearly from all of it at height 0 to none at `fadeMm`.
 * @throws {CalcError} when only one of `atZ` and `fadeMm` is given
 */
export const mapAt = calculation<Input, number>(
  'mapAt',
  () =>
    Joi.object({
      ...heightsKeys(1),
      x: finite(),
      y: finite(),
      atZ: atLeastZero().optional(),
      fadeMm: positive().optional(),
    }),
  ({ x, y, atZ, fadeMm, ...map }) => {
    if ((atZ === undefined) !== (fadeMm === undefined))
      throw new CalcError(
        atZ === undefined ? 'atZ' : 'fadeMm',
        '"atZ" and "fadeMm" belong together: give both, or none',
      );
    const left = atZ === undefined || fadeMm === undefined ? 1 : Math.max(0, 1 - atZ / fadeMm);
    return heightAt(map, x, y) * left;
  },
);
