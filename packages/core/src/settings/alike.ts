/** Values may differ this much by rounding; of what is larger than one, this share of it. */
const ROUNDING = 0.001;

/** Whether a value that was measured or reported is the one a machine file has, rounding aside. */
export const alike = (told: number, file: number): boolean =>
  Math.abs(told - file) <= ROUNDING * Math.max(1, Math.abs(file));
