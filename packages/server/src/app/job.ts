import type {
  Due,
  JobAnswer,
  JobOfMachine,
  JobState,
  JobToSave,
  NewJob,
  NewState,
  StoredJob,
} from '@jolly/contract/endpoints/jobs';
import type { StoredMachine } from '@jolly/contract/machine';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { boardCalled } from '@jolly/core/catalogue/catalogue';
import { resolve } from '@jolly/core/machine/facts';
import type { Change } from '@jolly/core/ripple/change';
import { type DoneKind, type Job, takenChanges } from '@jolly/core/ripple/job';
import { type Replanned, replan } from '@jolly/core/ripple/replan';
import { ripple } from '@jolly/core/ripple/ripple';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Context, transact, type Within } from '../context';
import { addDue, dropDue, dropDuesOf, listDues } from '../sql/dues';
import { addEntry } from '../sql/entries';
import { addJob, lastFinished, openJob, saveJob, setJobState } from '../sql/jobs';
import { saveMachine } from '../sql/machines';
import { endWaivers, restoreWaivers } from '../sql/waivers';
import { factsOf, theMachine } from './known';

/** What following a plan made of the machine file, and where it keeps what was set there since. */
type Followed = Pick<JobAnswer, 'machine' | 'kept' | 'left'>;

/** The open or paused job of a machine; else the finished one whose end can still be taken back. */
export async function jobOf(context: Within, id: string): Promise<JobOfMachine> {
  await theMachine(context, id);
  const job = await openJob(context.db, id);
  const last = job ? undefined : await lastFinished(context.db, id);
  return { job: job ?? null, finished: last ? { title: last.job.title, endedAt: last.endedAt } : null };
}

/** What finished jobs left to be measured. */
export async function dues(context: Within, id: string): Promise<Due[]> {
  await theMachine(context, id);
  return listDues(context.db, id);
}

/** Opens a job: the machine as it is becomes `before`, and the machine file takes the changes that are taken over. */
export function startJob(context: Context, machineId: string, wanted: NewJob): Promise<JobAnswer> {
  return transact(context, async (within) => {
    const { machine } = await theMachine(within, machineId);
    factsOf(within, machine);
    const job: Job = { jolly: 'job/1', ...wanted, before: machine, done: [] };
    refuseUnknownTaken(job);
    const stored = await addJob(within.db, machineId, job, context.now());
    if (!stored) throw new Refusal('job-open', 'this machine has an open job; finish or abandon it first');
    await addEntry(within.db, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Job opened: ${job.title}${job.overruled ? ` (against the advice: ${job.overruled})` : ''}`,
    });
    return { job: stored, ...(await follow(within, job, await replanOf(within, machineId, job, []))) };
  });
}

/** Changes an open job; the machine file follows its plan, and keeps what was set by hand since. */
export function changeJob(context: Context, machineId: string, wanted: JobToSave): Promise<JobAnswer> {
  return transact(context, async (within) => {
    const before = await theJob(within, machineId);
    if (before.version !== wanted.version) throw staleJob(before);
    const { version: _version, ...changes } = wanted;
    const job: Job = { ...before.job, ...changes };
    refuseUnknownTaken(job);
    const plan = await replanOf(within, machineId, job, takenChanges(before.job));
    const stored = await saveJob(within.db, before, { ...job, wired: plan.wired });
    if (!stored) throw staleJob(before);
    await recordDone(within, machineId, before.job, job);
    return { job: stored, ...(await follow(within, job, plan)) };
  });
}

/** Pauses, resumes, ends or abandons a job. An abandoned one may take its changes out of the machine file again. */
export function endJob(
  context: Context,
  machineId: string,
  { state, putBack, because }: NewState,
): Promise<Followed> {
  return transact(context, async (within) => {
    const before = await theJob(within, machineId);
    await setJobState(within.db, before.id, state, context.now());
    const ended = state === 'done' || state === 'abandoned';
    if (ended) await endWaivers(within.db, machineId, before.id);
    if (ended && !putBack) await keepDues(within, machineId, before);
    await addEntry(within.db, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Job ${WORD[state]}: ${before.job.title}${because ? ` (${because})` : ''}${putBack ? '; what it had taken over is out of the machine file again' : ''}`,
    });
    const job = putBack ? { ...before.job, taken: [] } : before.job;
    return follow(within, job, await replanOf(within, machineId, job, takenChanges(before.job)));
  });
}

/** What a job made due and nobody measured stays due when it ends: it rests on facts, not on the job. */
async function keepDues(context: Within, machineId: string, { id, job }: StoredJob): Promise<void> {
  const resolved = resolve(job.before, context.catalogue);
  if (!('facts' in resolved)) return;
  const done = new Set(job.done.map((entry) => entry.id));
  const { consequences } = ripple(resolved.facts, takenChanges(job));
  for (const entry of consequences)
    if (entry.kind === 'calibration' && !done.has(entry.id))
      await addDue(
        context.db,
        machineId,
        id,
        { id: entry.subject, title: entry.title, because: entry.because },
        context.now(),
      );
}

/** Takes the end of the last finished job back: it is open again, with its waivers and what it made due. */
export function reopenJob(context: Context, machineId: string): Promise<{ job: StoredJob }> {
  return transact(context, async (within) => {
    const open = await openJob(within.db, machineId);
    const last = await lastFinished(within.db, machineId);
    if (open || !last)
      throw new Refusal(
        'job-open',
        open ? 'another job is open; finish or abandon it first' : 'no finished job can be taken back here',
      );
    await setJobState(within.db, last.id, 'open', context.now());
    await restoreWaivers(within.db, machineId, last.id);
    await dropDuesOf(within.db, last.id);
    await addEntry(within.db, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Finishing taken back: ${last.job.title}`,
    });
    return { job: await theJob(within, machineId) };
  });
}

/** Something that stayed due is measured. */
export function settleDue(context: Context, machineId: string, id: string): Promise<Due[]> {
  return transact(context, async (within) => {
    const due = await dropDue(within.db, machineId, id);
    if (!due) throw notFound('thing that is due', id);
    await addEntry(within.db, machineId, {
      at: context.now(),
      kind: 'calibration',
      summary: `Done: ${due.title}`,
    });
    return listDues(within.db, machineId);
  });
}

const WORD: Record<JobState, string> = {
  open: 'resumed',
  paused: 'paused',
  done: 'finished',
  abandoned: 'abandoned',
};

async function theJob({ db }: Within, machineId: string): Promise<StoredJob> {
  const job = await openJob(db, machineId);
  if (!job) throw notFound('open job of machine', machineId);
  return job;
}

const staleJob = ({ version }: StoredJob) =>
  new Refusal(
    'stale',
    'this job was changed elsewhere since you opened it; take the newer one and make your change again',
    { version },
  );

function refuseUnknownTaken({ changes, taken }: Job): void {
  const unknown = taken.find((id) => !changes.some((change) => change.id === id));
  if (unknown !== undefined)
    throw new Refusal('bad-value', `"taken" names "${unknown}"; the job has no such change`, {
      path: 'taken',
    });
}

/** What the machine file becomes when a job goes on from one set of taken changes to another. */
async function replanOf(context: Within, machineId: string, job: Job, from: Change[]) {
  const now: StoredMachine = await theMachine(context, machineId);
  return { now, ...replan(now.machine, { ...job, from, to: takenChanges(job) }, context.catalogue) };
}

/** Brings the machine file to what was planned, all or nothing. */
async function follow(
  context: Within,
  job: Job,
  plan: Replanned & { now: StoredMachine },
): Promise<Followed> {
  const { now, machine, kept, left } = plan;
  if (sameValue(machine, now.machine)) return { machine: now, kept, left };
  refuseImpossible(context, job, takenChanges(job));
  factsOf(context, machine);
  const saved = await saveMachine(context.db, machine, now.version, context.now());
  if (!saved) throw new Refusal('stale', 'this machine was changed elsewhere in this very moment; try again');
  if (left.length > 0)
    await addEntry(context.db, machine.id, {
      at: context.now(),
      kind: 'job',
      summary: `Set by hand for ${boardCalled(context.catalogue, now.machine.board)}, and left with it: ${left.join(', ')}`,
    });
  return { machine: saved, kept, left };
}

/** What no machine file can hold: a change that cannot be made, two of which the later would silently win, drivers that are not there. */
const NEVER_TAKEN: ReadonlySet<string> = new Set([
  'impossible',
  'either-or',
  'same-thing-twice',
  'drivers-stay',
]);

function refuseImpossible(context: Within, job: Job, to: Change[]): void {
  const resolved = resolve(job.before, context.catalogue);
  if (!('facts' in resolved)) return;
  const impossible = ripple(resolved.facts, to).contradictions.find(({ id }) => NEVER_TAKEN.has(id));
  if (impossible) throw new Refusal('impossible', `${impossible.what} ${impossible.why}`, { path: 'taken' });
}

const RECORDED = new Set<DoneKind>(['lead', 'calibration', 'slicer', 'decide']);

/** What was ticked off or put back is written into the logbook; it is what somebody did with their hands. */
async function recordDone(context: Within, machineId: string, before: Job, after: Job): Promise<void> {
  const known = new Set(before.done.map((entry) => entry.id));
  const now = new Set(after.done.map((entry) => entry.id));
  const fresh = after.done.filter((entry) => !known.has(entry.id) && RECORDED.has(entry.kind));
  const back = before.done.filter((entry) => !now.has(entry.id) && RECORDED.has(entry.kind));
  for (const entry of fresh) {
    if (entry.kind === 'calibration') await dropDue(context.db, machineId, entry.subject);
    await addEntry(context.db, machineId, {
      at: context.now(),
      kind: entry.kind === 'calibration' ? 'calibration' : 'job',
      summary: `Done: ${entry.title}${entry.to ? ` → ${entry.to}` : ''}`,
    });
  }
  for (const entry of back)
    await addEntry(context.db, machineId, {
      at: context.now(),
      kind: 'job',
      summary: `Put back: ${entry.title}`,
    });
}
