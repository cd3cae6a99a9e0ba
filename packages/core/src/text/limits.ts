/** Longest line of G-code, or of what a board says, that is read, in characters. */
export const LONGEST_LINE = 400;

/** Longest settings report read, in characters or bytes. A real one has a few thousand. */
export const LONGEST_DUMP = 1_000_000;
