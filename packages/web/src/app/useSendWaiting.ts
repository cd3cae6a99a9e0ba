import type { Watched } from '@jolly/session/store';
import { useEffect } from 'react';
import { useWatched } from '../ui/useWatched';
import { appWindow } from './window';

/** So long after a server that is there did not take it, it is sent again: its disk may have room by then. */
const AGAIN_MS = 10_000;

/** Sends what waits in an outbox as soon as the server is there, and as soon as `ready` what it is sent for, until it is taken. */
export function useSendWaiting(
  outbox: Watched<readonly unknown[]>,
  ready: boolean,
  send: () => Promise<void>,
): void {
  const { here } = useWatched(appWindow.presence);
  const [next] = useWatched(outbox);
  useEffect(() => {
    if (!here || !ready || next === undefined) return;
    let timer: number | undefined;
    let over = false;
    const again = () => {
      if (!over) timer = window.setTimeout(go, AGAIN_MS);
    };
    const go = () => void send().then(again, again);
    go();
    return () => {
      over = true;
      window.clearTimeout(timer);
    };
  }, [here, ready, next, send]);
}
