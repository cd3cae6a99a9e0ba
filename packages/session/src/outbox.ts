import { store, type Watched } from './store';

/** What waits for the server, in order. Outlives a reload of its window. */
export interface Outbox<T> extends Watched<readonly T[]> {
  put(list: readonly T[]): void;
}

/** Where a window keeps text over a reload; it may have no room. */
export interface WindowStorage {
  getItem(name: string): string | null;
  setItem(name: string, text: string): void;
  removeItem(name: string): void;
}

export interface Outboxes {
  /** The outbox of one name. Names end with the id of the machine: `job:plover`. */
  open<T>(name: string): Outbox<T>;
  /** How many things of a machine wait for the server, in all its outboxes. */
  waiting(machineId: string): Watched<number>;
}

const keyOf = (name: string) => `outbox:${name}`;

/** All outboxes of one window. */
export function outboxes(storage: WindowStorage): Outboxes {
  const opened = new Map<string, Outbox<unknown>>();
  const changed = store(0);

  const stored = (name: string): unknown[] => {
    try {
      const list: unknown = JSON.parse(storage.getItem(keyOf(name)) ?? '[]');
      return Array.isArray(list) ? list : [];
    } catch {
      return [];
    }
  };
  const keep = (name: string, list: readonly unknown[]) => {
    try {
      if (list.length > 0) storage.setItem(keyOf(name), JSON.stringify(list));
      else storage.removeItem(keyOf(name));
    } catch {
      // The browser's room is used up: it still waits in this window, as long as that is not loaded anew.
    }
  };
  const make = (name: string): Outbox<unknown> => {
    const waiting = store<readonly unknown[]>(stored(name));
    return {
      ...waiting,
      put(list) {
        keep(name, list);
        waiting.set(list);
        changed.set(changed.now() + 1);
      },
    };
  };

  return {
    open<T>(name: string) {
      const outbox = opened.get(name) ?? make(name);
      if (!opened.has(name)) {
        opened.set(name, outbox);
        // What a reload found waiting counts too.
        changed.set(changed.now() + 1);
      }
      return outbox as Outbox<T>; // Each name is opened for one type of thing.
    },
    waiting: (machineId) => ({
      listen: changed.listen,
      now: () =>
        [...opened].reduce(
          (sum, [name, outbox]) => (name.endsWith(`:${machineId}`) ? sum + outbox.now().length : sum),
          0,
        ),
    }),
  };
}
