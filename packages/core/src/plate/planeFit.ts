import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import { type Heights, heightsKeys, rangeOf, rmsOf, spotsOf } from './heights';

/** z ≈ c + slopeX·x + slopeY·y; mm, and mm a mm. */
export interface Plane {
  c: number;
  slopeX: number;
  slopeY: number;
}
interface Output extends Plane {
  /** Highest less lowest, of the heights and of what the plane leaves, mm. */
  rangeBefore: number;
  rangeAfter: number;
  /** Of what the plane leaves, mm. */
  rms: number;
}

const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Height of a plane at a place, mm. */
export const planeAt = ({ c, slopeX, slopeY }: Plane, x: number, y: number): number =>
  c + slopeX * x + slopeY * y;

/**
 * The plane through a map by least squares. On lines that cross everywhere the two slopes do not meet, so each is a plain
 * regression. Two lines each way at least.
 */
export const planeFit = calculation<Heights, Output>('planeFit', Joi.object(heightsKeys(2)), (map) => {
  const spots = spotsOf(map);
  const [x0, y0, z0] = [meanOf(map.xs), meanOf(map.ys), meanOf(spots.map(({ z }) => z))];
  let [xx, yy, xz, yz] = [0, 0, 0, 0];
  for (const { x, y, z } of spots) {
    xx += (x - x0) ** 2;
    yy += (y - y0) ** 2;
    xz += (x - x0) * (z - z0);
    yz += (y - y0) * (z - z0);
  }
  const [slopeX, slopeY] = [xz / xx, yz / yy];
  const plane = { c: z0 - slopeX * x0 - slopeY * y0, slopeX, slopeY };
  const left = spots.map(({ x, y, z }) => z - planeAt(plane, x, y));
  return {
    ...plane,
    rangeBefore: rangeOf(spots.map(({ z }) => z)),
    rangeAfter: rangeOf(left),
    rms: rmsOf(left),
  };
});
