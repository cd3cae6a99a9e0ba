/** Height of the plate's surface in mm above its nominal plane, at a place in mm. */
export type Surface = (x: number, y: number) => number;

/** A plate with a little tilt and a shallow bowl; the seed decides how much of each. */
export function plateSurface(
  bed: { x: [number, number]; y: [number, number] },
  random: () => number,
): Surface {
  const tiltX = (random() - 0.5) * 0.2;
  const tiltY = (random() - 0.5) * 0.2;
  const bowl = (random() - 0.5) * 0.16;
  const share = (value: number, [low, high]: [number, number]) => (2 * (value - low)) / (high - low) - 1;
  return (x, y) => {
    const u = share(x, bed.x);
    const v = share(y, bed.y);
    return tiltX * u + tiltY * v + bowl * (u * u + v * v - 1);
  };
}
