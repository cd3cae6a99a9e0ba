import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import { type Heights, heightsKeys, rangeOf, rmsOf, type Spot, spotsOf } from './heights';

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

/** The plane through any places by least squares; level where they lie in one line. Nothing is checked. */
export function planeThrough(spots: readonly Spot[]): Plane {
  const [x0, y0, z0] = (['x', 'y', 'z'] as const).map((of) => meanOf(spots.map((spot) => spot[of]))) as [number, number, number]; // one for each
  let [xx, yy, xy, xz, yz] = [0, 0, 0, 0, 0];
  for (const spot of spots) {
    const [x, y, z] = [spot.x - x0, spot.y - y0, spot.z - z0];
    xx += x * x;
    yy += y * y;
    xy += x * y;
    xz += x * z;
    yz += y * z;
  }
  const det = xx * yy - xy * xy;
  const [slopeX, slopeY] = det > 1e-9 ? [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det] : [0, 0];
  return { c: z0 - slopeX * x0 - slopeY * y0, slopeX, slopeY };
} // prettier-ignore

/**
 * The plane through a map by least squares. Two lines each way at least.
 */
export const planeFit = calculation<Heights, Output>(
  'planeFit',
  () => Joi.object(heightsKeys(2)),
  (map) => {
    const spots = spotsOf(map);
    const plane = planeThrough(spots);
    const left = spots.map(({ x, y, z }) => z - planeAt(plane, x, y));
    return {
      ...plane,
      rangeBefore: rangeOf(spots.map(({ z }) => z)),
      rangeAfter: rangeOf(left),
      rms: rmsOf(left),
    };
  },
);
