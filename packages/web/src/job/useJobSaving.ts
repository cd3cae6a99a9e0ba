import { sameValue } from '@jolly/core/tree/sameValue';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import { api } from '../api/api';
import type { JobOfMachine, JobToSave, StoredJob } from '@jolly/contract/endpoints/jobs';
import { currentPresence, ServerGone } from '../api/presence';
import { useOutbox } from '../api/useOutbox';
import { usePresence } from '../api/usePresence';
import { useTape } from '../app/tape/tape';

/**
 * Saves an open job. While the server is gone, ticks and planned changes are shown and the newest state waits; what
 * would change the machine file is refused, because the server works that out.
 */
export function useJobSaving(machineId: string, stored: StoredJob | undefined) {
  const client = useQueryClient();
  const { write } = useTape();
  const presence = usePresence();
  const { waiting, now, put } = useOutbox<JobToSave>(`job:${machineId}`);
  const send = useCallback(
    async (job: JobToSave) => {
      const answer = await api.saveJob({ id: machineId }, job);
      // What was done while it was on its way goes on waiting, over what is saved now.
      const left = now().filter((entry) => entry !== job);
      put(left.map((entry) => ({ ...entry, version: answer.job.version })));
      if (left.length === 0) client.setQueryData(['job', machineId], { job: answer.job, finished: null });
      for (const path of answer.kept) write('done', `Kept as you set it since: ${path}`);
    },
    [client, machineId, now, put, write],
  );
  const hold = useCallback(
    (job: JobToSave) => {
      put([job]);
      client.setQueryData(['job', machineId], (before: JobOfMachine | undefined) =>
        before?.job ? { ...before, job: { ...before.job, job: { ...before.job.job, ...job } } } : before,
      );
    },
    [client, machineId, put],
  );
  const newest = waiting[0];
  const loaded = stored !== undefined;
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    if (!presence.here || !newest || !loaded) return;
    // One after another: two at once would meet each other, and one be told that it is stale.
    queue.current = queue.current.then(async () => {
      const [next] = now();
      if (!next) return;
      try {
        await send(next);
      } catch (error) {
        if (error instanceof ServerGone) return;
        put([]);
        write('done', `What was done in the job meanwhile is not saved: ${(error as Error).message}`);
        await client.invalidateQueries({ queryKey: ['job', machineId] });
      }
    });
  }, [presence.here, newest, loaded, now, send, put, write, client, machineId]);
  return useCallback(
    async (job: JobToSave): Promise<'saved' | 'waits'> => {
      const takesOver = !sameValue(job.taken, stored?.job.taken ?? []);
      try {
        if (now().length > 0 || !currentPresence().here) throw new ServerGone();
        await send(job);
        return 'saved';
      } catch (error) {
        if (!(error instanceof ServerGone) || takesOver) throw error;
        hold(job);
        return 'waits';
      }
    },
    [hold, now, send, stored],
  );
}
