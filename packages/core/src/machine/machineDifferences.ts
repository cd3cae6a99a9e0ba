import { type Difference, differences } from '../tree/differences';
import type { Path } from '../tree/path';

/** Parts of a machine file that are one thing two steps down: a setting, a landing, a drive, a waiver. */
const ONE_THING: ReadonlySet<unknown> = new Set(['settings', 'harness', 'axes', 'waivers']);

const isWhole = (path: Path): boolean =>
  (path.length === 2 && ONE_THING.has(path[0])) || path[0] === 'bed_map';

/**
 * Every value that differs between two machine files, in the order of the second; a setting, a landing or a drive
 * counts as one value, so that none is taken by half.
 */
export const machineDifferences = (from: unknown, to: unknown): Difference[] =>
  differences(from, to, isWhole);

/** A place in a machine file as far as one may choose about it: a setting or a landing is taken whole. */
export const choosable = (path: Path): Path =>
  ONE_THING.has(path[0]) && path[0] !== 'axes' ? path.slice(0, 2) : path;
