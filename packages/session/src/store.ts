/** A value that can be watched. */
export interface Watched<T> {
  now(): T;
  /** Calls back after every change; the returned function ends that. */
  listen(listener: () => void): () => void;
}
export interface Store<T> extends Watched<T> {
  set(next: T): void;
}

/** Holds one value and tells when it becomes another. */
export function store<T>(first: T): Store<T> {
  let value = first;
  const listeners = new Set<() => void>();
  return {
    now: () => value,
    set(next) {
      if (Object.is(next, value)) return;
      value = next;
      for (const listener of [...listeners]) listener();
    },
    listen(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

/** Runs works one after another; one that fails does not keep the next from running. */
export function inTurn(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (work) => {
    const next = last.then(work);
    last = next.catch(() => undefined);
    return next;
  };
}
