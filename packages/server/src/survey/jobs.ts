import type { Change } from '@jolly/core/ripple/change';
import type { Reason } from '@jolly/core/ripple/advice';
import { resolve } from '@jolly/core/machine/facts';
import { ripple } from '@jolly/core/ripple/ripple';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Done, type DoneKind, type Job, replan, takenChanges } from '@jolly/core/ripple/job';
import { ApiError, notFound } from '../api/apiError';
import { type Context, factsOr422, machineOr404 } from '../context';
import type { Db } from '../sql/db';
import { addEntry } from '../sql/entries';
import { addDue, dropDue, dropDuesOf } from '../sql/dues';
import {
  addJob,
  type JobState,
  lastFinished,
  openJob,
  saveJob,
  setJobState,
  type StoredJob,
} from '../sql/jobs';
import { saveMachine, type StoredMachine } from '../sql/machines';
import { endWaivers, restoreWaivers } from '../sql/waivers';

export interface NewJob {
  title: string;
  reason: Reason;
  overruled?: string;
  changes: Change[];
  taken: string[];
}
export interface JobChange {
  /** Version of the job this was made from. */
  version: number;
  title: string;
  changes: Change[];
  taken: string[];
  done: Done[];
}
export interface JobAnswer {
  job: StoredJob;
  machine: StoredMachine;
  /** Places where the machine file keeps what was set there since, against the plan. */
  kept: string[];
}

/** Opens a job: the machine as it is becomes `before`, and the machine file takes the changes that are taken over. */
export async function startJob(context: Context, machineId: string, wanted: NewJob): Promise<JobAnswer> {
  const { machine } = await machineOr404(context, machineId);
  factsOr422(context, machine);
  const job: Job = { jolly: 'job/1', ...wanted, before: machine, done: [] };
  refuseUnknownTaken(job);
  return context.db.transaction(async (inside) => {
    const stored = await addJob(inside, machineId, job, context.now());
    if (!stored)
      throw new ApiError(409, 'job-open', 'this machine has an open job; finish or abandon it first');
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Job opened: ${job.title}${job.overruled ? ` (against the advice: ${job.overruled})` : ''}`,
      detail: {},
    });
    return { job: stored, ...(await follow(context, inside, machineId, job, [])) };
  });
}

/** Changes an open job; the machine file follows its plan, and keeps what was set by hand since. */
export async function changeJob(context: Context, machineId: string, wanted: JobChange): Promise<JobAnswer> {
  return context.db.transaction(async (inside) => {
    const before = await jobOr404(inside, machineId);
    if (before.version !== wanted.version)
      throw new ApiError(
        409,
        'stale',
        'this job was changed elsewhere since you opened it; take the newer one and make your change again',
        { version: before.version },
      );
    const { version: _version, ...changes } = wanted;
    const job: Job = { ...before.job, ...changes };
    refuseUnknownTaken(job);
    const stored = (await saveJob(inside, before, job))!;
    await recordDone(context, inside, machineId, before.job, job);
    return { job: stored, ...(await follow(context, inside, machineId, job, takenChanges(before.job))) };
  });
}

/** Pauses, resumes, ends or abandons a job. An abandoned one may take its changes out of the machine file again. */
export async function endJob(
  context: Context,
  machineId: string,
  { state, putBack, because }: { state: JobState; putBack: boolean; because?: string },
): Promise<{ machine: StoredMachine; kept: string[] }> {
  return context.db.transaction(async (inside) => {
    const before = await jobOr404(inside, machineId);
    await setJobState(inside, before.id, state, context.now());
    const ended = state === 'done' || state === 'abandoned';
    if (ended) await endWaivers(inside, machineId, before.id);
    if (ended && !putBack) await keepDues(context, inside, machineId, before);
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Job ${WORD[state]}: ${before.job.title}${because ? ` (${because})` : ''}${putBack ? '; the machine file is as it was' : ''}`,
      detail: {},
    });
    const job = putBack ? { ...before.job, taken: [] } : before.job;
    return follow(context, inside, machineId, job, takenChanges(before.job));
  });
}

/** What a job made due and nobody measured stays due when it ends: it rests on facts, not on the job. */
async function keepDues(
  context: Context,
  inside: Db,
  machineId: string,
  { id, job }: StoredJob,
): Promise<void> {
  const resolved = resolve(job.before, context.catalogue);
  if (!('facts' in resolved)) return;
  const done = new Set(job.done.map((entry) => entry.id));
  const { consequences } = ripple(resolved.facts, takenChanges(job), context.catalogue);
  for (const entry of consequences)
    if (entry.kind === 'calibration' && !done.has(entry.id))
      await addDue(
        inside,
        machineId,
        id,
        { id: entry.subject, title: entry.title, because: entry.because },
        context.now(),
      );
}

/** Takes the end of the last finished job back: it is open again, with its waivers and what it made due. */
export async function reopenJob(context: Context, machineId: string): Promise<{ job: StoredJob }> {
  return context.db.transaction(async (inside) => {
    const open = await openJob(inside, machineId);
    const last = await lastFinished(inside, machineId);
    if (open || !last)
      throw new ApiError(
        409,
        'job-open',
        open ? 'another job is open; finish or abandon it first' : 'no finished job can be taken back here',
      );
    await setJobState(inside, last.id, 'open', context.now());
    await restoreWaivers(inside, machineId, last.id);
    await dropDuesOf(inside, last.id);
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Finishing taken back: ${last.job.title}`,
      detail: {},
    });
    return { job: (await openJob(inside, machineId))! };
  });
}

/** Something that stayed due is measured. */
export async function settleDue(context: Context, machineId: string, id: string): Promise<void> {
  await context.db.transaction(async (inside) => {
    const due = await dropDue(inside, machineId, id);
    if (!due) throw notFound('thing that is due', id);
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'calibration',
      summary: `Done: ${due.title}`,
      detail: {},
    });
  });
}

const WORD: Record<JobState, string> = {
  open: 'resumed',
  paused: 'paused',
  done: 'finished',
  abandoned: 'abandoned',
};

async function jobOr404(db: Db, machineId: string): Promise<StoredJob> {
  return (await openJob(db, machineId)) ?? Promise.reject(notFound('open job of machine', machineId));
}

function refuseUnknownTaken({ changes, taken }: Job): void {
  const unknown = taken.find((id) => !changes.some((change) => change.id === id));
  if (unknown !== undefined)
    throw new ApiError(400, 'bad-value', `"taken" names "${unknown}"; the job has no such change`, {
      path: 'taken',
    });
}

/** Brings the machine file from one set of taken changes to another, all or nothing. */
async function follow(
  context: Context,
  inside: Db,
  machineId: string,
  job: Job,
  from: Change[],
): Promise<{ machine: StoredMachine; kept: string[] }> {
  const now = await machineOr404({ ...context, db: inside }, machineId);
  const to = takenChanges(job);
  const { machine, kept } = replan(now.machine, job.before, from, to, context.catalogue);
  if (sameValue(machine, now.machine)) return { machine: now, kept };
  refuseImpossible(context, job, to);
  factsOr422(context, machine);
  const saved = await saveMachine(inside, machine, now.version, context.now());
  if (!saved)
    throw new ApiError(409, 'stale', 'this machine was changed elsewhere in this very moment; try again');
  return { machine: saved, kept };
}

function refuseImpossible(context: Context, job: Job, to: Change[]): void {
  const resolved = resolve(job.before, context.catalogue);
  if (!('facts' in resolved)) return;
  const impossible = ripple(resolved.facts, to, context.catalogue).contradictions.find(
    (entry) => entry.id === 'impossible',
  );
  if (impossible)
    throw new ApiError(422, 'impossible', `${impossible.what} ${impossible.why}`, { path: 'taken' });
}

const RECORDED = new Set<DoneKind>(['lead', 'calibration', 'slicer', 'decide']);

/** What was ticked off or put back is written into the logbook; it is what somebody did with their hands. */
async function recordDone(
  context: Context,
  inside: Db,
  machineId: string,
  before: Job,
  after: Job,
): Promise<void> {
  const known = new Set(before.done.map((entry) => entry.id));
  const now = new Set(after.done.map((entry) => entry.id));
  const fresh = after.done.filter((entry) => !known.has(entry.id) && RECORDED.has(entry.kind));
  const back = before.done.filter((entry) => !now.has(entry.id) && RECORDED.has(entry.kind));
  for (const entry of fresh) {
    if (entry.kind === 'calibration') await dropDue(inside, machineId, entry.subject);
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: entry.kind === 'calibration' ? 'calibration' : 'job',
      summary: `Done: ${entry.title}${entry.to ? ` → ${entry.to}` : ''}`,
      detail: {},
    });
  }
  for (const entry of back)
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Put back: ${entry.title}`,
      detail: {},
    });
}
