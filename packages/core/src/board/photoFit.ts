/** A point: on a photo in shares of its width and height from its top left, on a board in millimetres from its front left. */
export interface Point {
  x: number;
  y: number;
}
/** Where the corners of a board lie on its photo: front left, front right, back right, back left. */
export type Corners = readonly [Point, Point, Point, Point];

/** Three rows of three; takes (x, y, 1) to (u·w, v·w, w). */
export type Projection = readonly [number, number, number, number, number, number, number, number, number];

/**
 * The projection that takes the corners of a board of this size, in millimetres, to where they lie on a photo: from eight
 * linear equations (a plane seen by a pinhole camera), so that a photo taken askew is straightened.
 * @throws {Error} where three corners lie in one line, or the four are not named around the board
 */
export function projectionOf(size: Point, corners: Corners): Projection {
  if (!convex(corners))
    throw new Error('the corners must lie around the board: front left, front right, back right, back left');
  const flat: Corners = [{ x: 0, y: 0 }, { x: size.x, y: 0 }, { x: size.x, y: size.y }, { x: 0, y: size.y }]; // prettier-ignore
  const rows = corners.flatMap(({ x: u, y: v }, index) => {
    const { x, y } = flat[index] ?? flat[0];
    return [[x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]]; // prettier-ignore
  });
  return [...solved(rows), 1] as unknown as Projection; // eight unknowns and the one that is fixed
}

/** Where a point lies after a projection. */
export function projected([a, b, c, d, e, f, g, h, i]: Projection, { x, y }: Point): Point {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** The projection back. */
export function inverse([a, b, c, d, e, f, g, h, i]: Projection): Projection {
  return [
    e * i - f * h, c * h - b * i, b * f - c * e,
    f * g - d * i, a * i - c * g, c * d - a * f,
    d * h - e * g, b * g - a * h, a * e - b * d,
  ]; // prettier-ignore
}

/**
 * The size of a board, in millimetres, from two points of known distance on its photo; right where the photo was taken
 * straight from above. `aspect` is the photo's width by its height.
 * @throws {Error} where the two points are one, or the distance is not above 0
 */
export function sizeByDistance(
  corners: Corners,
  [from, to]: readonly [Point, Point],
  distanceMm: number,
  aspect: number,
): Point {
  const length = (p: Point, q: Point) => Math.hypot((p.x - q.x) * aspect, p.y - q.y);
  const known = length(from, to);
  if (!(known > 0)) throw new Error('the two points are one: point at two places');
  if (!(distanceMm > 0)) throw new Error(`a distance of ${distanceMm} mm: it must be above 0`);
  const [fl, fr, br, bl] = corners;
  const mm = distanceMm / known;
  const tenth = (value: number) => Math.round(value * 10) / 10;
  return { x: tenth(((length(fl, fr) + length(bl, br)) / 2) * mm), y: tenth(((length(fl, bl) + length(fr, br)) / 2) * mm) }; // prettier-ignore
}

/** Whether four points go around without crossing, either way round. */
function convex(corners: Corners): boolean {
  const turns = corners.map((at, index) => {
    const next = corners[(index + 1) % 4] ?? at;
    const after = corners[(index + 2) % 4] ?? at;
    return (next.x - at.x) * (after.y - next.y) - (next.y - at.y) * (after.x - next.x);
  });
  return turns.every((turn) => turn > 1e-9) || turns.every((turn) => turn < -1e-9);
}

/** Solves n equations, each row its factors and the right side, by elimination with the largest pivot. */
function solved(equations: number[][]): number[] {
  const rows = equations.map((row) => [...row]);
  const n = rows.length;
  for (let column = 0; column < n; column += 1) {
    const pivot = rows.slice(column).reduce((best, row, index) => (Math.abs(row[column] ?? 0) > Math.abs(rows[best]?.[column] ?? 0) ? column + index : best), column); // prettier-ignore
    [rows[column], rows[pivot]] = [rows[pivot] ?? [], rows[column] ?? []];
    const top = rows[column] ?? [];
    rows.forEach((row, index) => {
      if (index === column) return;
      const factor = (row[column] ?? 0) / (top[column] ?? 1);
      for (let k = column; k <= n; k += 1) row[k] = (row[k] ?? 0) - factor * (top[k] ?? 0);
    });
  }
  return rows.map((row, index) => (row[n] ?? 0) / (row[index] ?? 1));
}
