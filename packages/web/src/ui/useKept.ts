import { whyOf } from '@jolly/core/text/whyOf';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';

/** Something that is stored, and counted up with every save. */
interface Stored {
  version: number;
  changedAt: string;
}
export type Saved = 'saved' | 'saving' | { refused: string };

export interface Kept<S extends Stored> {
  stored: S;
  /** Changes it here at once, and keeps it; a refusal comes back in words. */
  change: (to: (now: S) => S) => Promise<string | undefined>;
  /** How the newest change stands. */
  saved: Saved;
  /** Resolves when everything changed is kept. */
  settled: () => Promise<void>;
  /** Reads it anew, after it was changed by another way than this. */
  readAnew: () => Promise<void>;
}

/**
 * Something that is worked at for long and kept with every change, one save behind the other. Undefined while it is not
 * read; or why it cannot be.
 */
export function useKept<S extends Stored>({
  key,
  read,
  save,
  listed,
}: {
  key: readonly [string, string];
  read: () => Promise<S>;
  save: (stored: S) => Promise<Stored>;
  /** The list in which it stands, known anew once it is kept. */
  listed: readonly string[];
}): Kept<S> | { failed: Error } | undefined {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: key, queryFn: read });
  const [saved, setSaved] = useState<Saved>('saved');
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  if (!data) return error ? { failed: error } : undefined;

  const put = (to: (now: S) => S) => client.setQueryData<S>(key, (now) => now && to(now));
  const keep = async (): Promise<string | undefined> => {
    const now = client.getQueryData<S>(key);
    if (!now) return undefined;
    try {
      const { version, changedAt } = await save(now);
      // What was changed meanwhile is there already, and is saved next.
      put((later) => ({ ...later, version, changedAt }));
      setSaved('saved');
      // The shelf tells how far it is, also when this page is left before the change was kept.
      void client.invalidateQueries({ queryKey: listed });
      return undefined;
    } catch (problem) {
      setSaved({ refused: whyOf(problem) });
      await client.invalidateQueries({ queryKey: key });
      return whyOf(problem);
    }
  };
  return {
    stored: data,
    saved,
    change(to) {
      setSaved('saving');
      put(to);
      const mine = turn.current.then(keep);
      turn.current = mine;
      return mine;
    },
    settled: async () => void (await turn.current),
    readAnew: () => client.invalidateQueries({ queryKey: key }),
  };
}
