import type { Heights } from '@jolly/core/plate/heights';
import { ends, FINE } from './linesOfHeight';

export interface Place {
  x: number;
  y: number;
}

/** Where the plate lies on the drawing. */
export const WIDE = 420;
export const MARGIN = 34;
const ABOVE = 10;

const within = (value: number, [low, top]: readonly [number, number]) => Math.min(top, Math.max(low, value));

/** The area of a map as a sheet of the drawing, front below: places of the plate in mm to those of the drawing, and back. */
export function sheetOf(map: Heights) {
  const [x, y] = [ends(map.xs), ends(map.ys)];
  const high = Math.min(WIDE * 1.2, (WIDE * (y[1] - y[0])) / (x[1] - x[0]));
  return {
    x,
    y,
    high,
    onSheet: (place: Place): Place => ({
      x: MARGIN + ((place.x - x[0]) / (x[1] - x[0])) * WIDE,
      y: ABOVE + ((y[1] - place.y) / (y[1] - y[0])) * high,
    }),
    /** The place of the plate that is nearest to a point of the drawing. */
    onPlate: (point: Place): Place => ({
      x: within(x[0] + ((point.x - MARGIN) / WIDE) * (x[1] - x[0]), x),
      y: within(y[1] - ((point.y - ABOVE) / high) * (y[1] - y[0]), y),
    }),
    /** Kept on the plate. */
    kept: (place: Place): Place => ({ x: within(place.x, x), y: within(place.y, y) }),
    /** A ring of the picture of lines as a path of the drawing. */
    ring: (ring: readonly (readonly number[])[]): string =>
      `${ring
        .map(([column = 0, row = 0], index) => {
          const across = MARGIN + ((column - 0.5) / (FINE - 1)) * WIDE;
          const down = ABOVE + ((row - 0.5) / (FINE - 1)) * high;
          return `${index === 0 ? 'M' : 'L'}${across.toFixed(1)} ${down.toFixed(1)}`;
        })
        .join('')}Z`,
  };
}
