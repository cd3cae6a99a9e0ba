import type { FactKey } from '../machine/touched';
import type { Figure } from './calibrationTool';

/** The last time something was measured, as far as it is on record. */
export interface Measured {
  calibration: string;
  /** `poor`: measured, and not good enough; `done`: somebody says that they did it. */
  outcome: 'found' | 'poor' | 'done';
  atMs: number;
  /** The facts it was measured with, in words. */
  with: Readonly<Record<FactKey, string>>;
  /** The numbers that were found. */
  figures?: readonly Figure[];
}
