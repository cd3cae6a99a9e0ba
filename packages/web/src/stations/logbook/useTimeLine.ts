import type { Entry, EntryKind } from '@jolly/contract/endpoints/machines';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { api } from '../../api/api';
import { heldOf } from '../../api/held';
import { useJob } from '../../job/JobProvider';

export type Shown =
  { kind: 'entry'; at: string; entry: Entry } | { kind: 'photo'; at: string; id: number; title: string };

/**
 * The entries of a machine as far as they were asked for, newest first, with the photos of that time where nothing is
 * left out.
 * @param kinds only entries of these kinds; none: of any
 * @param words only entries that hold them
 */
export function useTimeLine(machine: string, kinds: readonly EntryKind[], words: string) {
  const { photos } = useJob();
  const filter = { ...(kinds.length > 0 && { kinds: kinds.join(',') }), ...(words !== '' && { words }) };
  const whole = kinds.length === 0 && words === '';
  const { data, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery({
    // Under the entries: whoever writes one makes both known anew.
    queryKey: [...heldOf(machine, 'entries'), 'timeline', filter],
    queryFn: ({ pageParam }) =>
      api.timeline({ id: machine, ...filter, ...(pageParam !== undefined && { from: pageParam }) }),
    initialPageParam: undefined as string | undefined, // the first page is asked for without one
    getNextPageParam: (last, all) => {
      const read = all.reduce((sum, { entries }) => sum + entries.length, 0);
      const end = last.entries.at(-1);
      return read < last.total && end ? String(end.id) : undefined;
    },
    placeholderData: (before) => before,
  });
  const shown = useMemo((): Shown[] => {
    const entries = (data?.pages ?? []).flatMap((page) => page.entries);
    const last = entries.at(-1)?.at ?? '';
    const seen = whole ? photos.filter(({ at }) => at >= last || !hasNextPage) : [];
    return [
      ...entries.map((entry): Shown => ({ kind: 'entry', at: entry.at, entry })),
      ...seen.map(({ id, at, title }): Shown => ({ kind: 'photo', at, id, title })),
    ].sort((one, other) => (one.at < other.at ? 1 : one.at > other.at ? -1 : 0));
  }, [data, photos, whole, hasNextPage]);
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  return { shown, total: data?.pages[0]?.total, error, more };
}
