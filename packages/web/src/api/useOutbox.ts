import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';

/** What waits for the server, in order. Outlives a reload of this window. */
export interface Outbox<T> {
  waiting: readonly T[];
  /** As it is in this moment, also between two drawings. */
  now(): readonly T[];
  put(list: readonly T[]): void;
}

const keyOf = (name: string) => `outbox:${name}`;

function stored<T>(name: string): T[] {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(name)) ?? '[]') as T[];
  } catch {
    return [];
  }
}

/** How much waits in each outbox of this window, so that it can be said in one place. */
const counts = new Map<string, number>();
const listeners = new Set<() => void>();
function tell(name: string, count: number): void {
  counts.set(name, count);
  for (const listen of listeners) listen();
}
function onCounts(listen: () => void): () => void {
  listeners.add(listen);
  return () => listeners.delete(listen);
}

/** How many things of a machine wait for the server, in all its outboxes. */
export const useWaiting = (machineId: string): number =>
  useSyncExternalStore(onCounts, () =>
    [...counts].reduce((sum, [name, count]) => (name.endsWith(`:${machineId}`) ? sum + count : sum), 0),
  );

/** The outbox of one name, in this window. Names end with the id of the machine: `job:plover`. */
export function useOutbox<T>(name: string): Outbox<T> {
  const [waiting, setWaiting] = useState<readonly T[]>(() => stored<T>(name));
  const latest = useRef(waiting);
  const put = useCallback(
    (list: readonly T[]) => {
      latest.current = list;
      try {
        if (list.length > 0) sessionStorage.setItem(keyOf(name), JSON.stringify(list));
        else sessionStorage.removeItem(keyOf(name));
      } catch {
        // The browser's room is used up: it still waits in this window, as long as that is not loaded anew.
      }
      setWaiting(list);
      tell(name, list.length);
    },
    [name],
  );
  // What a reload found waiting counts too.
  useEffect(() => tell(name, latest.current.length), [name]);
  const now = useCallback(() => latest.current, []);
  return useMemo(() => ({ waiting, now, put }), [waiting, now, put]);
}
