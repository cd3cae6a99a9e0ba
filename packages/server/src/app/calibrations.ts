import {
  type CalibrationRecord,
  type CalibrationToRecord,
  MOST_CALIBRATIONS,
  type UpkeepOfMachine,
} from '@jolly/contract/endpoints/calibrations';
import type { Due } from '@jolly/contract/endpoints/jobs';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { calibrationTitles } from '@jolly/core/calibration/calibrationTools';
import { measuredWith, upkeepOf } from '@jolly/core/calibration/upkeep';
import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import type { Settings } from '@jolly/core/settings/setting';
import { type Context, transact, type Within } from '../context';
import { addCalibration, dropCalibration, lastCalibrations, listCalibrations } from '../sql/calibrations';
import { dropDue, listDues, putDueBack } from '../sql/dues';
import { addEntry, dropMeasured } from '../sql/entries';
import { theFacts } from './known';

/** What was measured at a machine, and what of it is due. */
export async function calibrations(context: Within, id: string): Promise<CalibrationRecord> {
  const facts = await theFacts(context, id);
  const titles = calibrationTitles(facts);
  const stored = await listCalibrations(context.db, id, MOST_CALIBRATIONS);
  return {
    calibrations: stored.map((one) => ({ ...one, title: titles.get(one.calibration) ?? one.calibration })),
    upkeep: await upkeepToday(context, facts),
  };
}

/** What was measured last of each, and what jobs have left. */
interface UpkeepRows {
  measured: Awaited<ReturnType<typeof lastCalibrations>>;
  left: readonly Due[];
}

/** What is due on a machine and what is not. */
export async function upkeepToday({ db, now }: Within, facts: Facts): Promise<UpkeepOfMachine[]> {
  const { id } = facts.machine;
  const rows = { measured: await lastCalibrations(db, id), left: await listDues(db, id) };
  return upkeepFrom(facts, derive(facts), rows, now());
}

/** The same, from rows that were read already. */
export function upkeepFrom(
  facts: Facts,
  settings: Settings,
  { measured, left }: UpkeepRows,
  now: Date,
): UpkeepOfMachine[] {
  const day = (ms: number) => new Date(ms).toISOString();
  return upkeepOf(facts, settings, {
    measured: measured.map(({ at, ...one }) => ({ ...one, atMs: Date.parse(at) })),
    left: left.map(({ since, ...due }) => ({ ...due, sinceMs: Date.parse(since) })),
    nowMs: now.getTime(),
  }).map(({ lastMs, dueMs, aside, ...one }) => ({
    ...one,
    ...(aside && { aside: [...aside] }),
    ...(lastMs !== undefined && { lastAt: day(lastMs) }),
    ...(dueMs !== undefined && { dueAt: day(dueMs) }),
  }));
}

const WENT: readonly [keyof CalibrationToRecord['wentTo'], string][] = [
  ['file', 'in the machine file'],
  ['board', 'on the board'],
  ['store', 'stored there'],
];

/** Writes down what was measured; what a job had left of it is due no more. */
export function record(
  context: Context,
  id: string,
  measured: CalibrationToRecord,
): Promise<CalibrationRecord> {
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    const titles = calibrationTitles(facts);
    const { calibration, outcome, words, evidence, wentTo } = measured;
    const title = titles.get(calibration);
    if (title === undefined)
      throw new Refusal('bad-value', `"calibration" must be one of ${[...titles.keys()].join(', ')}`, {
        path: 'calibration',
      });
    const at = within.now();
    await addCalibration(within.db, id, measured, { at, measuredWith: measuredWith(facts, calibration) });
    // A poor outcome leaves it due.
    const settled = outcome === 'poor' ? undefined : await dropDue(within.db, id, calibration);
    const went = WENT.filter(([where]) => wentTo[where]).map(([, where]) => where);
    await addEntry(within.db, id, {
      at,
      kind: 'calibration',
      summary: `${title}: ${words}${went.length > 0 ? ` (${went.join(', ')})` : ''}`,
      detail: { evidence, ...(settled && { settled }) },
    });
    return calibrations(within, id);
  });
}

/** Takes a measurement off the record, and its line out of the logbook; what it settled is due again. */
export function takeBack(context: Context, id: string, number: number): Promise<CalibrationRecord> {
  return transact(context, async (within) => {
    const dropped = await dropCalibration(within.db, id, number);
    if (!dropped) throw notFound('measurement', String(number));
    const line = await dropMeasured(within.db, id, dropped);
    if (line?.settled) await putDueBack(within.db, id, line.settled);
    return calibrations(within, id);
  });
}
