import Joi from 'joi';
import { calculation, CalcError, span, TOLERANCE } from '../calculation/calculation';
import type { Rectangle } from './probeReach';

export interface Point {
  x: number;
  y: number;
}
interface Input {
  reach: Rectangle;
  nx: number;
  ny: number;
}
interface Output {
  points: Point[];
  /** A point lies on the centre of the reach. */
  touchesCentre: boolean;
}

const count = () => Joi.number().integer().min(2).max(15);

/**
 * The points of a bed map in probing order: `nx` × `ny` (2–15 a side) evenly over the reach with both edges, first
 * row in front from left to right, then back and forth. Probe coordinates, mm.
 * @throws {CalcError} when the reach has no area
 */
export const mapGrid = calculation<Input, Output>(
  'mapGrid',
  () => Joi.object({ reach: Joi.object({ x: span(), y: span() }).unknown(), nx: count(), ny: count() }),
  ({ reach, nx, ny }) => {
    for (const axis of ['x', 'y'] as const)
      if (reach[axis][1] - reach[axis][0] <= TOLERANCE)
        throw new CalcError(`reach.${axis}`, `"reach.${axis}" must have a length above 0`);
    const xs = evenly(reach.x, nx);
    const ys = evenly(reach.y, ny);
    const points = ys.flatMap((y, row) => (row % 2 === 0 ? xs : [...xs].reverse()).map((x) => ({ x, y })));
    const centre = { x: (reach.x[0] + reach.x[1]) / 2, y: (reach.y[0] + reach.y[1]) / 2 };
    const touchesCentre = points.some(
      ({ x, y }) => Math.abs(x - centre.x) <= TOLERANCE && Math.abs(y - centre.y) <= TOLERANCE,
    );
    return { points, touchesCentre };
  },
);

/** `n` places over a span, both ends exact. */
function evenly([from, to]: [number, number], n: number): number[] {
  return Array.from({ length: n }, (_, index) =>
    index === n - 1 ? to : from + ((to - from) * index) / (n - 1),
  );
}
