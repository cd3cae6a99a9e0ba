import type { Filled } from '@jolly/core/tree/filled';
/** Outlines around the origin, about 12 across: each change of a job has a shape of its own, so that colour is not needed. */
const SHAPES: Filled<string> = [
  'M-6 0a6 6 0 1 0 12 0a6 6 0 1 0 -12 0z',
  'M-5.5 -5.5h11v11h-11z',
  'M0 -6.5L6.2 5H-6.2z',
  'M0 -7L6 0L0 7L-6 0z',
  'M-6 -2.2h3.8v-3.8h4.4v3.8h3.8v4.4h-3.8v3.8h-4.4v-3.8h-3.8z',
  'M0 6.5L6.2 -5H-6.2z',
  'M-3.2 -6h6.4l3.2 6l-3.2 6h-6.4l-3.2 -6z',
  'M-6 5.5a6 9 0 0 1 12 0z',
];

/** The mark of the change at a place in its job. */
export const causeMark = (index: number) => SHAPES[index % SHAPES.length] ?? SHAPES[0];
