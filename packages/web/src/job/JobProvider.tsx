import type { Consequence, Done, Job, Machine, PutBack, Reason } from '@jolly/core';
import { toPutBack } from '@jolly/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useMemo } from 'react';
import { api, type JobState, type StoredJob, type StoredPhoto, type WayBack } from '../api/api';
import { useTape } from '../app/tape/tape';
import type { JobTail } from '../workbench/coreWorker';
import { useWorkbench } from '../workbench/Workbench';

/** The open job of the machine at hand, what follows from it, and the ways to change it. */
export interface JobBench {
  /** Undefined when no job is open. */
  stored?: StoredJob;
  tail?: JobTail;
  /** The machine as it stands on the bench: before the job, or as it is when there is none. */
  before: Machine;
  wayBack?: WayBack;
  photos: StoredPhoto[];
  putBack: PutBack[];
  start(job: StartJob): Promise<string | undefined>;
  /** Saves changes to the job; a refusal comes back as a sentence. */
  save(
    label: string,
    changes: Partial<Pick<Job, 'title' | 'changes' | 'taken' | 'done'>>,
  ): Promise<string | undefined>;
  setState(state: JobState, putBack: boolean, because?: string): Promise<string | undefined>;
  isDone(id: string): boolean;
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
  const { machine, core, facts } = useWorkbench();
  const client = useQueryClient();
  const { write } = useTape();
  const { id } = machine;
  const job = useQuery({ queryKey: ['job', id], queryFn: () => api.job(id) });
  const wayBack = useQuery({ queryKey: ['wayBack', id], queryFn: () => api.wayBack(id) });
  const photos = useQuery({ queryKey: ['photos', id], queryFn: () => api.photos(id) });
  const stored = job.data?.job ?? undefined;
  const tail = useQuery({
    queryKey: ['tail', id, stored?.id, stored?.version, facts.catalogue.boards.length],
    queryFn: async () => {
      const answer = await core.tail(stored!.job.before, stored!.job.changes, stored!.job.reason);
      if ('problems' in answer) throw new Error(answer.problems[0]!.message);
      return answer;
    },
    enabled: stored !== undefined,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });

  const bench = useMemo((): JobBench => {
    const refresh = (...keys: string[]) =>
      Promise.all(keys.map((key) => client.invalidateQueries({ queryKey: [key, id] })));
    const guarded = async (label: string, act: () => Promise<unknown>): Promise<string | undefined> => {
      try {
        await act();
      } catch (error) {
        await refresh('job');
        return (error as Error).message;
      } finally {
        void refresh('machine', 'entries', 'proofs', 'board', 'wayBack');
        void client.invalidateQueries({ queryKey: ['machines'] });
      }
      write('done', label);
      return undefined;
    };
    const save: JobBench['save'] = (label, changes) =>
      guarded(label, async () => {
        if (!stored) throw new Error('no job is open');
        const { title, changes: all, taken, done } = { ...stored.job, ...changes };
        const answer = await api.saveJob(id, { version: stored.version, title, changes: all, taken, done });
        client.setQueryData(['job', id], { job: answer.job });
        for (const path of answer.kept) write('done', `Kept as you set it since: ${path}`);
      });
    const current = stored && tail.data ? tail.data : undefined;
    return {
      ...(stored && { stored }),
      ...(current && { tail: current }),
      before: stored?.job.before ?? machine,
      ...(wayBack.data && { wayBack: wayBack.data }),
      photos: photos.data ?? [],
      putBack: stored && current ? toPutBack(stored.job.done, current.ripple.consequences) : [],
      start: (wanted) =>
        guarded(`Job opened: ${wanted.title}`, async () => {
          const answer = await api.startJob(id, wanted);
          client.setQueryData(['job', id], { job: answer.job });
        }),
      save,
      setState: (state, putBack, because) =>
        guarded(`Job ${state}`, async () => {
          await api.setJobState(id, state, putBack, because);
          await refresh('job');
        }),
      isDone: (doneId) => stored?.job.done.some((entry) => entry.id === doneId) ?? false,
      tick: (what, done) => {
        const others = (stored?.job.done ?? []).filter((entry) => entry.id !== what.id);
        return save(done ? `Done: ${what.title}` : `Not done: ${what.title}`, {
          done: done ? [...others, { ...what, at: new Date().toISOString() }] : others,
        });
      },
    };
  }, [client, id, machine, stored, tail.data, wayBack.data, photos.data, write]);
  return <JobContext value={bench}>{children}</JobContext>;
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
