import type { Query, QueryClient } from '@tanstack/react-query';

declare module '@tanstack/react-query' {
  interface Register {
    /** `what` is looked up, as in "Not known: …". Where a view does not say by itself that it failed, the frame does. */
    queryMeta: { what?: string };
  }
}

/** Something that a view on the screen wants to know and could not be found out. */
export interface Unread {
  what: string;
  because: string;
}

const isUnread = (query: Query): boolean =>
  query.meta?.what !== undefined &&
  query.state.status === 'error' &&
  query.state.data === undefined &&
  query.isActive();

/** What could not be found out for the views on the screen, and how it is asked for again. */
export function unreadOf(client: QueryClient): {
  now: () => readonly Unread[];
  watch: (changed: () => void) => () => void;
  askAgain: () => Promise<void>;
} {
  const cache = client.getQueryCache();
  let last: readonly Unread[] = [];
  const now = () => {
    const found = cache.findAll({ predicate: isUnread }).flatMap(({ meta, state }): Unread[] => {
      const what = meta?.what;
      return what === undefined ? [] : [{ what, because: state.error?.message ?? 'it was not said why' }];
    });
    // The same list stays the same, so that nothing is drawn anew.
    if (JSON.stringify(found) !== JSON.stringify(last)) last = found;
    return last;
  };
  return {
    now,
    watch: (changed) => cache.subscribe(changed),
    askAgain: () => client.refetchQueries({ predicate: isUnread }),
  };
}
