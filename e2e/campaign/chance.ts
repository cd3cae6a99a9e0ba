/** Chance that can be had again: the same seed gives the same numbers (mulberry32). */
export interface Chance {
  /** From 0 up to 1. */
  next(): number;
  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number;
  one<T>(of: readonly T[]): T;
  /** A text of some of the letters given. */
  text(letters: string, longest: number): string;
}

export function chance(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  const whole = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
  const one = <T>(of: readonly T[]): T => of[whole(0, of.length - 1)]!;
  return {
    next,
    whole,
    one,
    text: (letters, longest) => {
      const all = [...letters];
      return Array.from({ length: whole(0, longest) }, () => one(all)).join('');
    },
  };
}
