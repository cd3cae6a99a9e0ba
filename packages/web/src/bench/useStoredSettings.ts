import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect } from 'react';
import { api } from '../api/api';
import { ServerGone } from '../api/presence';
import { useOutbox } from '../api/useOutbox';
import { usePresence } from '../api/usePresence';
import { useTape } from '../app/tape/tape';

/** Keeps what the firmware stores. While the server is gone the newest of it waits. */
export function useStoredSettings(machineId: string): (store: string) => void {
  const client = useQueryClient();
  const { write } = useTape();
  const presence = usePresence();
  const { waiting, now, put } = useOutbox<string>(`store:${machineId}`);
  const send = useCallback(
    async (store: string) => {
      try {
        await api.putStore({ id: machineId }, { store });
        // Something newer may wait by now.
        if (now()[0] === store) put([]);
        await client.invalidateQueries({ queryKey: ['board', machineId] });
      } catch (error) {
        if (!(error instanceof ServerGone)) {
          put([]);
          return write('done', `What the board stored is not kept: ${(error as Error).message}`);
        }
        put([store]);
      }
    },
    [client, machineId, now, put, write],
  );
  const newest = waiting[0];
  useEffect(() => {
    if (presence.here && newest !== undefined) void send(newest);
  }, [presence.here, newest, send]);
  return useCallback((store) => void send(store), [send]);
}
