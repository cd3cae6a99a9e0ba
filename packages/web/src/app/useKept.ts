import { type LongWork, longWork, type Saved, type Worked } from '@jolly/session/longWork';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useWatched } from '../ui/useWatched';
import { useSendWaiting } from './useSendWaiting';
import { appWindow } from './window';

export interface Kept<S extends Worked> extends Pick<LongWork<S>, 'change' | 'settled'> {
  stored: S;
  /** How the newest change stands. */
  saved: Saved;
  /** Reads it anew, after it was changed by another way than this. */
  readAnew: () => Promise<void>;
}

/** One for each thing: a view that is left and entered again goes on behind what is still on its way. */
const works = new Map<string, LongWork<never>>();

function workOf<S extends Worked>(name: string, make: () => LongWork<S>): LongWork<S> {
  // Each name is opened for one type of thing.
  const work = (works.get(name) as unknown as LongWork<S> | undefined) ?? make();
  works.set(name, work as unknown as LongWork<never>); // as above
  return work;
}

/**
 * Something that is worked at for long and kept with every change. Undefined while it is not read; or why it cannot be.
 */
export function useKept<S extends Worked>({
  key,
  read,
  save,
  listed,
}: {
  key: readonly [string, string];
  read: () => Promise<S>;
  save: (stored: S) => Promise<Worked>;
  /** The list in which it stands, known anew once it is kept. */
  listed: readonly string[];
}): Kept<S> | { failed: Error } | undefined {
  const client = useQueryClient();
  const outbox = appWindow.outboxes.open<S>(key.join(':'));
  const readAnew = () => client.invalidateQueries({ queryKey: key });
  const work = workOf(key.join(':'), () =>
    longWork<S>({
      read,
      save,
      outbox,
      shown: {
        now: () => client.getQueryData<S>(key),
        show: (now) => {
          // What is being read is from before it.
          void client.cancelQueries({ queryKey: key });
          client.setQueryData(key, now);
        },
        reload: readAnew,
      },
      // The shelf tells how far it is, also when this page is left before the change was kept.
      kept: () => void client.invalidateQueries({ queryKey: listed }),
    }),
  );
  const isQuiet = () => !work.isBusy();
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: work.read,
    refetchOnWindowFocus: isQuiet,
    refetchOnReconnect: isQuiet,
  });
  const saved = useWatched(work.saved);
  useSendWaiting(outbox, data !== undefined, work.send);
  if (!data) return error ? { failed: error } : undefined;
  return { stored: data, saved, change: work.change, settled: work.settled, readAnew };
}
