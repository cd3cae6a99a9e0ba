import type { Heights } from '@jolly/core/plate/heights';
import { heightAt } from '@jolly/core/plate/mapAt';
import { contours } from 'd3-contour';

/** Lines are drawn through so many heights a side, filled in between the points as the board does it. */
export const FINE = 72;

/** Steps of height that give about eight lines: 0.01, 0.02, 0.05, 0.1 … mm. */
function stepFor(range: number): number {
  const rough = Math.max(range, 0.01) / 8;
  const ten = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((by) => by * ten).find((step) => step >= rough) ?? rough;
}

/** Lines of equal height over a map, `step` mm apart, in a picture of FINE by FINE whose rows go from back to front. */
export function linesOfHeight(map: Heights) {
  const [x0, x1] = ends(map.xs);
  const [y0, y1] = ends(map.ys);
  const all = map.z.flat();
  const [low, top] = [Math.min(...all), Math.max(...all)];
  const step = stepFor(top - low);
  const values = Array.from({ length: FINE * FINE }, (_, index) => {
    const [column, row] = [index % FINE, Math.floor(index / FINE)];
    // Rows of the picture go down, those of the plate up.
    return heightAt(map, x0 + ((x1 - x0) * column) / (FINE - 1), y1 - ((y1 - y0) * row) / (FINE - 1));
  });
  const count = Math.ceil((top - low) / step) + 2;
  const levels = Array.from({ length: count }, (_, nth) => (Math.floor(low / step) + nth) * step);
  return { lines: contours().size([FINE, FINE]).thresholds(levels)(values), low, top, step };
}

/** The first and the last place of a side of a map, in mm. */
export const ends = (places: readonly number[]): readonly [number, number] => [
  places[0] ?? 0,
  places.at(-1) ?? 1,
];
