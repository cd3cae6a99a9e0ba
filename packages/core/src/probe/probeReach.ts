import Joi from 'joi';
import { atLeastZero, calculation, finite, span, TOLERANCE } from '../calculation/calculation';

export type Span = [number, number];
export interface Rectangle {
  x: Span;
  y: Span;
}
interface Input {
  travel: Rectangle;
  bed: Rectangle;
  offset: { x: number; y: number };
  marginMm: number;
}
export type Reach = Rectangle & { share: number };

const rectangle = () => Joi.object({ x: span(), y: span() }).unknown();

/**
 * Where the probe can touch, in probe coordinates: the bed shrunk by the margin, cut with the nozzle's travel
 * shifted by the probe offset. `share` is the reach's share of the whole bed's area. Null if no area is left.
 */
export const probeReach = calculation<Input, Reach | null>(
  'probeReach',
  () =>
    Joi.object({
      travel: rectangle(),
      bed: rectangle(),
      offset: Joi.object({ x: finite(), y: finite() }).unknown(),
      marginMm: atLeastZero(),
    }),
  ({ travel, bed, offset, marginMm }) => {
    const x = cut(shift(travel.x, offset.x), shrink(bed.x, marginMm));
    const y = cut(shift(travel.y, offset.y), shrink(bed.y, marginMm));
    if (length(x) <= TOLERANCE || length(y) <= TOLERANCE) return null;
    return { x, y, share: (length(x) * length(y)) / (length(bed.x) * length(bed.y)) };
  },
);

const length = ([low, high]: Span) => high - low;
const shift = ([low, high]: Span, by: number): Span => [low + by, high + by];
const shrink = ([low, high]: Span, by: number): Span => [low + by, high - by];
const cut = (a: Span, b: Span): Span => [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
