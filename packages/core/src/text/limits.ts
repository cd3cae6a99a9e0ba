/** Longest line of G-code, or of what a board says, that is read, in characters. */
export const LONGEST_LINE = 400;

/** Longest settings report read, in characters or bytes. A real one has a few thousand. */
export const LONGEST_DUMP = 1_000_000;
/** Most inputs of a run on the bench that a proof rests on. */
export const MOST_BENCH_INPUTS = 20_000;

/** Longest YAML file read, in characters. A machine has a few thousand. */
export const LONGEST_YAML = 256 * 1024;
