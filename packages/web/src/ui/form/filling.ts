import type { Path } from '@jolly/core/tree/path';

/** What fields of a form share: the thing they are of, and how a value is put into it. */
export interface Filling {
  /** The whole file, and the way to the thing that is filled in. */
  whole: unknown;
  base: Path;
  /** Undefined takes the value out. */
  onSet: (path: Path, value: unknown) => void;
  /** The heading the form stands under; a list of that name needs none of its own. */
  heading?: string;
  /** Asks for a point on the drawing, where there is one to point at. */
  onPoint?: ((label: string, take: (at: { x: number; y: number }) => void) => void) | undefined;
}
