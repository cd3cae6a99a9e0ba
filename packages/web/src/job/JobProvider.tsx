import type { UpkeepOfMachine } from '@jolly/contract/endpoints/calibrations';
import type { StoredJob } from '@jolly/contract/endpoints/jobs';
import type { WayBack } from '@jolly/contract/endpoints/kept';
import type { StoredPhoto } from '@jolly/contract/endpoints/photos';
import type { Machine } from '@jolly/core/machine/machine';
import type { Change } from '@jolly/core/ripple/change';
import type { Consequence } from '@jolly/core/ripple/consequence';
import { type Done, followsAlready, type PutBack, toPutBack } from '@jolly/core/ripple/job';
import { skipToken, useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useMemo } from 'react';
import { askedOf } from '../api/asked';
import type { JobTail } from '../workbench/coreWorker';
import { useWorkbench } from '../workbench/Workbench';
import { type Lookup, lookupOf } from './lookup';
import { type JobActs, useJobActs } from './useJobActs';

/** The open job of the machine at hand, what follows from it, and the ways to change it. */
export interface JobBench extends JobActs {
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
  putBack: PutBack[];
  isDone(id: string): boolean;
  /** What of a kind follows from the changes that the machine file holds, done or not. */
  already(kind: Consequence['kind']): Consequence[];
}
const JobContext = createContext<JobBench | undefined>(undefined);

export function JobProvider({ children }: { children: ReactNode }) {
  const { machine, core, facts, deeds } = useWorkbench();
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

  const isKnown = job.data !== undefined;
  const openId = stored?.id;
  useEffect(() => {
    if (isKnown) deeds.onlyOf(openId);
  }, [deeds, isKnown, openId]);

  const acts = useJobActs(id, stored);
  const bench = useMemo((): Omit<JobBench, 'lookups'> => {
    const current = stored && tail.data ? tail.data : undefined;
    return {
      ...acts,
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
      putBack: stored && current ? toPutBack(stored.job.done, current.ripple.consequences) : [],
      already: (kind) =>
        stored && current ? followsAlready(current.ripple.consequences, stored.job, kind) : [],
      isDone: (doneId) => stored?.job.done.some((entry) => entry.id === doneId) ?? false,
    };
  }, [acts, machine, stored, tail.data, wayBack.data, photos.data, measured.data, job.data?.finished]);
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
