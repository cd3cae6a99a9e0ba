import type { StoredMachine } from '@jolly/contract/machine';
import type { Deeds } from '@jolly/session/deeds';
import { machineSaving, type WaitingChange } from '@jolly/session/machineSaving';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { tape } from '../app/tape/tape';
import { useSendWaiting } from '../app/useSendWaiting';
import { useWatched } from '../ui/useWatched';
import { appWindow } from '../app/window';
import { askAnew, askAnewOf, heldOf } from '../api/held';

/** The changes of one machine on their way to the server, and what of them waits or met another window's change. */
export function useSaving(id: string, deeds: Deeds) {
  const cache = useQueryClient();
  const { write } = tape;
  const { client, presence, outboxes } = appWindow;
  const outbox = outboxes.open<WaitingChange>(`machine:${id}`);
  const saving = useMemo(
    () =>
      machineSaving(id, {
        client,
        presence,
        outbox,
        shown: {
          now: () => cache.getQueryData<StoredMachine>(heldOf(id, 'machine')),
          show: (machine) => void cache.setQueryData(heldOf(id, 'machine'), machine),
          reload: () => askAnewOf(cache, id, 'machine'),
        },
        deeds,
        saved: () => {
          void askAnew(cache, 'machines');
          // What is due, and what happened, follow from the file as well.
          void askAnewOf(cache, id, 'edits', 'calibrations', 'entries', 'board', 'proofs', 'flashRun');
        },
        say: (text) => write('done', text),
      }),
    [cache, client, deeds, id, outbox, presence, write],
  );
  const waiting = useWatched(outbox).length;
  const conflict = useWatched(saving.conflict);
  const settled = useWatched(saving.settled);
  const loaded = cache.getQueryData(heldOf(id, 'machine')) !== undefined;
  useSendWaiting(outbox, loaded && !conflict, saving.send);
  return { saving, waiting, settled, conflict };
}
