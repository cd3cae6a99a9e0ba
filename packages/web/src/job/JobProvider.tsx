import { whyOf } from '@jolly/core/text/whyOf';
import type { Change } from '@jolly/core/ripple/change';
import type { Consequence } from '@jolly/core/ripple/consequence';
import type { Done, Job, PutBack } from '@jolly/core/ripple/job';
import type { Machine } from '@jolly/core/machine/machine';
import type { Reason } from '@jolly/core/ripple/advice';
import { followsAlready, toPutBack } from '@jolly/core/ripple/job';
import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useMemo } from 'react';
import { askedOf } from '../api/asked';
import { api } from '../api/api';
import type { UpkeepOfMachine } from '@jolly/contract/endpoints/calibrations';
import type { JobState, StoredJob } from '@jolly/contract/endpoints/jobs';
import type { StoredPhoto } from '@jolly/contract/endpoints/photos';
import type { WayBack } from '@jolly/contract/endpoints/kept';
import { tape } from '../app/tape/tape';
import type { JobTail } from '../workbench/coreWorker';
import { useWorkbench } from '../workbench/Workbench';
import { type Lookup, lookupOf } from './lookup';
import { type Deed, type JobDeed, jobTurned, partsOf } from '@jolly/session/deeds';
import type { Way } from '@jolly/session/way';
import { followedInWords, type JobChange } from '@jolly/session/jobSaving';
import { useJobSaving } from './useJobSaving';
import { askAnew, askAnewOf, heldOf, type HeldOfMachine } from '../api/held';

/** The open job of the machine at hand, what follows from it, and the ways to change it. */
export interface JobBench {
  /** Undefined when no job is open. */
  stored?: StoredJob;
  tail?: JobTail;
  /** The machine as it stands on the bench: before the job, or as it is when there is none. */
  before: Machine;
  wayBack?: WayBack;
  /** What is asked of the server and the worker and has not come yet, or why it does not. */
  lookups: Lookup[];
  photos: StoredPhoto[];
  /** Changes of the open job that the machine file does not hold yet. */
  waiting: Change[];
  /** What is due to be measured, whoever made it so; undefined until it is known. */
  dues?: Pick<UpkeepOfMachine, 'id' | 'title'>[];
  /** How many measurements are not on record. */
  unmeasured?: number;
  /** The last finished job, while its end can be taken back. */
  finished?: { title: string; endedAt: string };
  reopen(): Promise<string | undefined>;
  putBack: PutBack[];
  start(job: StartJob): Promise<string | undefined>;
  /** Changes the job from what the change before left of it; a refusal comes back as a sentence. */
  save(label: string, make: (now: Job) => JobChange): Promise<string | undefined>;
  setState(state: JobState, putBack: boolean, because?: string): Promise<string | undefined>;
  isDone(id: string): boolean;
  /** What of a kind follows from the changes that the machine file holds, done or not. */
  already(kind: Consequence['kind']): Consequence[];
  /** Takes back what a deed of this window made of the job, or does it again. */
  turn(deed: JobDeed, way: Way): Promise<void>;
  /** Ticks something off, or takes the tick away. */
  tick(what: Omit<Done, 'at'>, done: boolean): Promise<string | undefined>;
}
export interface StartJob {
  title: string;
  reason: Reason;
  overruled?: string;
  changes: Job['changes'];
  taken: string[];
}

const JobContext = createContext<JobBench | undefined>(undefined);

export function JobProvider({ children }: { children: ReactNode }) {
  const { machine, core, facts, deeds } = useWorkbench();
  const client = useQueryClient();
  const { write } = tape;
  const { id } = machine;
  const job = useQuery(askedOf.job(id));
  const wayBack = useQuery(askedOf.wayBack(id));
  const measured = useQuery(askedOf.calibrations(id));
  const photos = useQuery(askedOf.photos(id));
  const stored = job.data?.job ?? undefined;
  const tail = useQuery({
    queryKey: ['tail', id, stored?.id, stored?.version, facts.catalogue.boards.length],
    queryFn: stored
      ? async () => {
          const answer = await core.tail(stored.job.before, stored.job.changes, stored.job.reason);
          if ('problems' in answer) throw new Error(answer.problems[0].message);
          return answer;
        }
      : skipToken,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });

  const saving = useJobSaving(id, stored !== undefined);

  const isKnown = job.data !== undefined;
  const openId = stored?.id;
  useEffect(() => {
    if (isKnown) deeds.onlyOf(openId);
  }, [deeds, isKnown, openId]);

  const bench = useMemo((): Omit<JobBench, 'lookups'> => {
    const refresh = (...names: HeldOfMachine[]) => askAnewOf(client, id, ...names);
    const guarded = async (label: string, act: () => Promise<unknown>): Promise<string | undefined> => {
      let ended: unknown;
      try {
        ended = await act();
      } catch (error) {
        await refresh('job');
        return whyOf(error);
      } finally {
        void refresh('machine', 'entries', 'proofs', 'board', 'wayBack', 'calibrations');
        void askAnew(client, 'machines');
      }
      write('done', ended === 'waits' ? `Waits for the server: ${label}` : label);
      return undefined;
    };
    const changing = async (label: string, make: (now: Job) => JobChange) => {
      let deed: Deed | undefined;
      const refused = await guarded(label, () =>
        saving.save((now) => {
          const changed = make(now);
          if (stored)
            deed = {
              kind: 'job',
              job: stored.id,
              label,
              before: partsOf(now),
              after: { ...partsOf(now), ...changed },
            };
          return changed;
        }),
      );
      if (refused === undefined && deed) deeds.did(deed);
      return refused;
    };
    const change = (label: string, make: (now: Job) => JobChange) => deeds.during(changing(label, make));
    const current = stored && tail.data ? tail.data : undefined;
    return {
      ...(stored && { stored }),
      ...(current && { tail: current }),
      before: stored?.job.before ?? machine,
      ...(wayBack.data && { wayBack: wayBack.data }),
      photos: photos.data ?? [],
      waiting: stored?.job.changes.filter(({ id: change }) => !stored.job.taken.includes(change)) ?? [],
      ...(measured.data && {
        dues: measured.data.upkeep.filter(({ state }) => state === 'due'),
        unmeasured: measured.data.upkeep.filter(({ state }) => state === 'not known').length,
      }),
      ...(job.data?.finished && { finished: job.data.finished }),
      reopen: () =>
        guarded('Finishing taken back', async () => {
          await api.reopenJob({ id });
          await refresh('job');
        }),
      putBack: stored && current ? toPutBack(stored.job.done, current.ripple.consequences) : [],
      start: (wanted) =>
        guarded(`Job opened: ${wanted.title}`, async () => {
          const answer = await api.startJob({ id }, wanted);
          client.setQueryData(heldOf(id, 'job'), { job: answer.job, finished: null });
        }),
      save: change,
      setState: (state, putBack, because) =>
        guarded(`Job ${state}`, async () => {
          const followed = await api.setJobState({ id }, { state, putBack, ...(because && { because }) });
          for (const line of followedInWords(followed)) write('done', line);
          await refresh('job');
        }),
      turn: async (deed, way) => {
        const asked = way === 'undo' ? deed : { before: deed.after, after: deed.before };
        const label = `${way === 'undo' ? 'Undone' : 'Done again'}: ${deed.label}`;
        const refused = await guarded(label, () => saving.save((now) => jobTurned(partsOf(now), asked)));
        if (refused === undefined) deeds.goes(way);
        else write('done', `Could not ${way} “${deed.label}”: ${refused}`);
      },
      already: (kind) =>
        stored && current ? followsAlready(current.ripple.consequences, stored.job, kind) : [],
      isDone: (doneId) => stored?.job.done.some((entry) => entry.id === doneId) ?? false,
      tick: (what, done) =>
        change(done ? `Done: ${what.title}` : `Not done: ${what.title}`, (now) => {
          const others = now.done.filter((entry) => entry.id !== what.id);
          return { done: done ? [...others, { ...what, at: new Date().toISOString() }] : others };
        }),
    };
  }, [
    client,
    deeds,
    id,
    machine,
    stored,
    tail.data,
    wayBack.data,
    photos.data,
    measured.data,
    job.data?.finished,
    saving,
    write,
  ]);
  // Outside what is remembered above: a look-up that fails changes none of the data it would have brought.
  const lookups = [
    lookupOf('the job', job),
    lookupOf('the way back', wayBack),
    lookupOf('the photos', photos),
    lookupOf('what is due', measured),
    ...(stored ? [lookupOf('what follows from the job', tail)] : []),
  ];
  return <JobContext value={{ ...bench, lookups }}>{children}</JobContext>;
}

export function useJob(): JobBench {
  const bench = useContext(JobContext);
  if (!bench) throw new Error('useJob needs a JobProvider around it');
  return bench;
}

/** A consequence as it is noted down when it is done. */
export function asDone({ id, kind, subject, title, from, to }: Consequence): Omit<Done, 'at'> {
  return { id, kind, subject, title, ...(from && { from }), ...(to && { to }) };
}
