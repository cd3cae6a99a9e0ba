import type { JobOfMachine, JobToSave } from '@jolly/contract/endpoints/jobs';
import { type JobSaving, jobSaving } from '@jolly/session/jobSaving';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { tape } from '../app/tape/tape';
import { useSendWaiting } from '../app/useSendWaiting';
import { appWindow } from '../app/window';
import { askAnewOf, heldOf } from '../api/held';

/** Saves the open job of a machine, now or as soon as the server is there. */
export function useJobSaving(id: string, isOpen: boolean): JobSaving {
  const cache = useQueryClient();
  const { write } = tape;
  const { client, presence, outboxes } = appWindow;
  const outbox = outboxes.open<JobToSave>(`job:${id}`);
  const saving = useMemo(
    () =>
      jobSaving(id, {
        client,
        presence,
        outbox,
        shown: {
          now: () => cache.getQueryData<JobOfMachine>(heldOf(id, 'job')),
          show: (job) => void cache.setQueryData(heldOf(id, 'job'), job),
          reload: () => askAnewOf(cache, id, 'job'),
        },
        say: (text) => write('done', text),
      }),
    [cache, client, id, outbox, presence, write],
  );
  useSendWaiting(outbox, isOpen, saving.send);
  return saving;
}
