/** Something in pasted G-code that does not suit the machine. */
export interface LineProblem {
  /** Where, from 1; 0 for something that is missing. */
  line: number;
  text: string;
  what: string;
  why: string;
}

/** What a problem is about: its words, a heat beyond the limit, homing, a place outside the travel, a hot end too cold. */
export type ProblemKind = 'words' | 'heat' | 'homing' | 'outside' | 'cold';

/** What becomes of a line that the board refuses. */
export const NOT_DONE =
  'The board answers it with an error and does nothing, and the print goes on without it.';
