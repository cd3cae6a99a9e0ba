/** Outlines of a cog drawn around the origin; angles in radians, 0 to the right, growing clockwise as on screen. */

/** Height of a tooth, as a share of the pitch between teeth. */
const TALL = 0.62;

export interface CogSize {
  teeth: number;
  /** Radius of the circle on which cogs meet. */
  pitchRadius: number;
  bodyRadius: number;
  tipRadius: number;
}

/** A cog whose teeth are `toothPitch` apart as long as its radius stays between `smallest` and `largest`. */
export function cogSize(teeth: number, toothPitch: number, smallest: number, largest: number): CogSize {
  const pitchRadius = Math.min(largest, Math.max(smallest, (toothPitch * teeth) / (2 * Math.PI)));
  const height = Math.min(TALL * toothPitch, pitchRadius * 0.36, (TALL * 3 * Math.PI * pitchRadius) / teeth);
  return { teeth, pitchRadius, bodyRadius: pitchRadius - height / 2, tipRadius: pitchRadius + height / 2 };
}

const at = (radius: number, angle: number) =>
  `${(radius * Math.cos(angle)).toFixed(2)} ${(radius * Math.sin(angle)).toFixed(2)}`;
/** Angle one tooth and its gap take; few teeth do not grow without end. */
const pitchOf = (teeth: number) => Math.min((2 * Math.PI) / teeth, 0.9);

/** A whole tooth, centred on `angle`. */
export function toothPath({ teeth, bodyRadius, tipRadius }: CogSize, angle: number): string {
  const foot = pitchOf(teeth) * 0.29;
  const tip = pitchOf(teeth) * 0.17;
  const root = bodyRadius - 1;
  return `M${at(root, angle - foot)}L${at(tipRadius, angle - tip)}L${at(tipRadius, angle + tip)}L${at(root, angle + foot)}Z`;
}

/** A tooth with its tip broken off. */
export function brokenToothPath({ teeth, bodyRadius, tipRadius }: CogSize, angle: number): string {
  const pitch = pitchOf(teeth);
  const middle = (bodyRadius + tipRadius) / 2;
  const root = bodyRadius - 1;
  const edge: [number, number][] = [
    [root, -0.29],
    [middle + 1.5, -0.24],
    [middle - 2.5, -0.06],
    [middle + 2, 0.05],
    [middle - 2, 0.2],
    [root, 0.29],
  ];
  return `M${edge.map(([radius, share]) => at(radius, angle + share * pitch)).join('L')}Z`;
}

/**
 * Rotation of each cog of a row so that where two meet, a tooth stands in a gap; `turned` teeth have gone by.
 * Neighbours turn against each other, tooth for tooth.
 */
export function meshedRotations(sizes: CogSize[], turned: number): number[] {
  let share = 0;
  return sizes.map(({ teeth }, index) => {
    const pitch = (2 * Math.PI) / teeth;
    const way = index % 2 === 0 ? 1 : -1;
    // `share` is where, between two teeth, the left neighbour's meeting point lies; here it must be the opposite.
    const rotation = index === 0 ? 0 : Math.PI - (0.5 - share) * pitch;
    share = ((((0 - rotation) / pitch) % 1) + 1) % 1;
    return rotation + way * turned * pitch;
  });
}
