import { sameValue } from '@jolly/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect } from 'react';
import { api, type JobOfMachine, type JobToSave, type StoredJob } from '../api/api';
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
      const answer = await api.saveJob(machineId, job);
      put([]);
      client.setQueryData(['job', machineId], { job: answer.job, finished: null });
      for (const path of answer.kept) write('done', `Kept as you set it since: ${path}`);
    },
    [client, machineId, put, write],
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
  useEffect(() => {
    if (!presence.here || !newest || !stored) return;
    void send(newest).catch((error: unknown) => {
      if (error instanceof ServerGone) return;
      put([]);
      write('done', `What was done in the job meanwhile is not saved: ${(error as Error).message}`);
      void client.invalidateQueries({ queryKey: ['job', machineId] });
    });
  }, [presence.here, newest, stored, send, put, write, client, machineId]);
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
