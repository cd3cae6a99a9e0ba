import type { Answer, Procedure } from '../bringup/procedure';
import type { Choosing } from './calibrationTool';
import { descend, type Onto } from './descend';
import { lift } from './warmUp';

/** Two runs that differ by no more than this agree, mm. */
export const AGREE_MM = 0.02;
const MOST_RUNS = 6;
/** A run begins so far above where the plate is expected, mm. */
export const ABOVE_MM = 5;

export const SHIM: Choosing = {
  key: 'shimMm',
  label: 'The shim is',
  unit: 'mm',
  range: [0.02, 1],
  value: 0.1,
  help: 'A slip of usual paper is about 0.1 mm.',
};

/** The last run with an earlier one that it agrees with, if there is one. */
export function agreed(heights: readonly number[]): [number, number] | undefined {
  const last = heights.at(-1);
  const like = heights.slice(0, -1).findLast((one) => Math.abs(one - (last ?? NaN)) <= AGREE_MM + 1e-9);
  return last !== undefined && like !== undefined ? [like, last] : undefined;
}

/**
 * Lowers the nozzle onto a shim again and again, until two runs agree or there were enough: the heights at which it dragged.
 * @param begin stands well clear of the plate, homed anew; the answer that ended it, if one did
 */
export function* shimRuns(
  { shimMm, expectedMm }: Pick<Onto, 'shimMm' | 'expectedMm'>,
  begin: () => Procedure<Answer | undefined>,
): Procedure<{ heights: number[] } | { ended: Answer }> {
  const heights: number[] = [];
  while (!agreed(heights) && heights.length < MOST_RUNS) {
    const ended = yield* begin();
    if (ended) return { ended };
    const run = yield* descend({ shimMm, expectedMm, runs: heights });
    yield* lift();
    if ('ended' in run) return run;
    heights.push(run.z);
  }
  return { heights };
}
