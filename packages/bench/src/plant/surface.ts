/** Height of the plate's surface in mm above its nominal plane, at a place in mm and a temperature of the plate. */
export type Surface = (x: number, y: number, plateC: number) => number;

const ROOM_C = 21;
/** A plate that warms bows up in its middle by so much for each degree. */
const BOWS_MM_PER_C = 0.0006;

interface Bump {
  x: number;
  y: number;
  height: number;
  width: number;
}

/**
 * A plate with a little tilt, a shallow bowl, a twist and a few bumps; it bows when warm, and the beam of X sags in its
 * middle. The seed decides how much of each.
 */
export function plateSurface(
  bed: { x: [number, number]; y: [number, number] },
  random: () => number,
): Surface {
  const around = (most: number) => (random() - 0.5) * 2 * most;
  const [tiltX, tiltY, bowl, twist] = [around(0.09), around(0.09), around(0.07), around(0.03)];
  const sag = 0.02 * random();
  const bumps: Bump[] = Array.from({ length: 3 }, () => ({
    x: around(0.8),
    y: around(0.8),
    height: around(0.03),
    width: 0.15 + 0.2 * random(),
  }));
  const share = (value: number, [low, high]: [number, number]) => (2 * (value - low)) / (high - low) - 1;
  return (x, y, plateC) => {
    const u = share(x, bed.x);
    const v = share(y, bed.y);
    const bowed = (plateC - ROOM_C) * BOWS_MM_PER_C * (1 - (u * u + v * v) / 2);
    const bumpy = bumps.reduce(
      (sum, bump) =>
        sum + bump.height * Math.exp(-((u - bump.x) ** 2 + (v - bump.y) ** 2) / (2 * bump.width ** 2)),
      0,
    );
    return (
      tiltX * u + tiltY * v + bowl * (u * u + v * v - 1) + twist * u * v + bowed + bumpy + sag * (1 - u * u)
    );
  };
}
