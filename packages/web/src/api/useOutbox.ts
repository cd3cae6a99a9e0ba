import { useCallback, useMemo, useRef, useState } from 'react';

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

/** The outbox of one name, in this window. */
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
    },
    [name],
  );
  const now = useCallback(() => latest.current, []);
  return useMemo(() => ({ waiting, now, put }), [waiting, now, put]);
}
