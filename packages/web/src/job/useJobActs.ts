import { whyOf } from '@jolly/core/text/whyOf';
import type { Reason } from '@jolly/core/ripple/advice';
import type { Done, Job } from '@jolly/core/ripple/job';
import type { JobState, StoredJob } from '@jolly/contract/endpoints/jobs';
import { type Deed, type JobDeed, jobTurned, partsOf } from '@jolly/session/deeds';
import { followedInWords, type JobChange } from '@jolly/session/jobSaving';
import type { Way } from '@jolly/session/way';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../api/api';
import { askAnew, askAnewOf, heldOf, type HeldOfMachine } from '../api/held';
import { tape } from '../app/tape/tape';
import { useWorkbench } from '../workbench/Workbench';
import { useJobSaving } from './useJobSaving';

export interface StartJob {
  title: string;
  reason: Reason;
  overruled?: string;
  changes: Job['changes'];
  taken: string[];
}

/** What is done with a job; a refusal comes back as a sentence. */
export interface JobActs {
  reopen(): Promise<string | undefined>;
  start(job: StartJob): Promise<string | undefined>;
  /** Changes the job from what the change before left of it; a refusal comes back as a sentence. */
  save(label: string, make: (now: Job) => JobChange): Promise<string | undefined>;
  setState(state: JobState, putBack: boolean, because?: string): Promise<string | undefined>;
  /** Takes back what a deed of this window made of the job, or does it again. */
  turn(deed: JobDeed, way: Way): Promise<void>;
  /** Ticks something off, or takes the tick away. */
  tick(what: Omit<Done, 'at'>, done: boolean): Promise<string | undefined>;
}

/** What can be done with the job that is open at a machine, or to open one. */
export function useJobActs(id: string, stored: StoredJob | undefined): JobActs {
  const { deeds } = useWorkbench();
  const client = useQueryClient();
  const { write } = tape;
  const saving = useJobSaving(id, stored !== undefined);
  return useMemo((): JobActs => {
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
    return {
      reopen: () =>
        guarded('Finishing taken back', async () => {
          await api.reopenJob({ id });
          await refresh('job');
        }),
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
      tick: (what, done) =>
        change(done ? `Done: ${what.title}` : `Not done: ${what.title}`, (now) => {
          const others = now.done.filter((entry) => entry.id !== what.id);
          return { done: done ? [...others, { ...what, at: new Date().toISOString() }] : others };
        }),
    };
  }, [client, deeds, id, stored, saving, write]);
}
