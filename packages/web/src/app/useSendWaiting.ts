import type { Watched } from '@jolly/session/store';
import { useEffect } from 'react';
import { useWatched } from '../ui/useWatched';
import { appWindow } from './window';

/** Sends what waits in an outbox as soon as the server is there, and as soon as `ready` what it is sent for. */
export function useSendWaiting(
  outbox: Watched<readonly unknown[]>,
  ready: boolean,
  send: () => Promise<void>,
): void {
  const { here } = useWatched(appWindow.presence);
  const [next] = useWatched(outbox);
  useEffect(() => {
    if (here && ready && next !== undefined) void send();
  }, [here, ready, next, send]);
}
