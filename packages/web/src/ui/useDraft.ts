import { type SetStateAction, useCallback, useEffect, useState } from 'react';

const keyOf = (name: string) => `draft:${name}`;

function stored<T>(name: string): T | undefined {
  const text = sessionStorage.getItem(keyOf(name));
  if (text === null) return undefined;
  try {
    // Written by this hook under this name; a draft of another shape has another name.
    return JSON.parse(text) as T;
  } catch {
    return undefined;
  }
}

/**
 * State that is not saved yet and outlives leaving the view and loading the page again, in this window. Setting it
 * to `undefined` forgets the draft, and `initial` stands again.
 */
export function useDraft<T>(name: string, initial: T): [T, (next: SetStateAction<T> | undefined) => void] {
  const [draft, setDraft] = useState<{ name: string; value: T | undefined }>(() => ({
    name,
    value: stored<T>(name),
  }));
  const value = draft.name === name ? draft.value : stored<T>(name);
  useEffect(() => {
    if (draft.name !== name) setDraft({ name, value: stored<T>(name) });
  }, [draft.name, name]);
  const set = useCallback(
    (next: SetStateAction<T> | undefined) =>
      setDraft((before) => {
        const now = before.name === name ? before.value : stored<T>(name);
        // A function here is never a value.
        const after = typeof next === 'function' ? (next as (old: T) => T)(now ?? initial) : next;
        if (after === undefined) sessionStorage.removeItem(keyOf(name));
        else sessionStorage.setItem(keyOf(name), JSON.stringify(after));
        return { name, value: after };
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it begins with is asked for when it is used
    [name],
  );
  return [value ?? initial, set];
}
