/** From low to high, as the lamp shines across the plate: verdigris, paper, brass. Contours and figures say the same. */
const STOPS: readonly (readonly [number, number, number])[] = [
  [38, 116, 99],
  [150, 190, 170],
  [240, 230, 205],
  [218, 174, 92],
  [143, 96, 22],
];

/** A colour for a height in its range, 0 to 1. */
export function heightColour(share: number): string {
  const at = Math.min(1, Math.max(0, share)) * (STOPS.length - 1);
  const low = Math.min(STOPS.length - 2, Math.floor(at));
  const mixed = (index: 0 | 1 | 2) => {
    const [from, to] = [STOPS[low]?.[index] ?? 0, STOPS[low + 1]?.[index] ?? 0];
    return Math.round(from + (at - low) * (to - from));
  };
  return `rgb(${mixed(0)} ${mixed(1)} ${mixed(2)})`;
}
