import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import { type Judgement, judgeReading, type MeterRow } from '@jolly/core/firstPower/metering';
import { readMeter } from '@jolly/core/firstPower/meterReading';

/** What was noted of something that was asked for as it is now; undefined where nothing was. */
export const saidOf = (
  notes: readonly PowerNote[] | undefined,
  asked: string,
  expected: string,
): string | undefined => notes?.find((entry) => entry.asked === asked && entry.expected === expected)?.said;

/** How a reading is judged; undefined while there is none, and for one that is none. */
export function judged(
  row: Pick<MeterRow, 'bounds' | 'causes'>,
  said: string | undefined,
): Judgement | undefined {
  const reading = said === undefined ? undefined : readMeter(said);
  return reading && judgeReading(row, reading);
}
