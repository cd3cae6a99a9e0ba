import { Checkbox, TextInput } from '@mantine/core';
import type { Entry, EntryKind } from '@jolly/contract/endpoints/machines';
import { ENTRY_KINDS } from '@jolly/contract/endpoints/machines';
import { oneOf } from '@jolly/core/tree/keysOf';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useEffect, useMemo, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { heldOf } from '../../api/held';
import { api, photoUrl } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { dayOf, timeOf } from '../../ui/when';
import { EntryLine, KIND_WORD } from './EntryLine';
import css from './LogbookStation.module.css';

/** What a line is about as high as before it has been laid out, in px. */
const LINE_PX = 52;
/** The next page is asked for so many lines before the end. */
const AHEAD = 30;

type Shown =
  { kind: 'entry'; at: string; entry: Entry } | { kind: 'photo'; at: string; id: number; title: string };

/** Everything that happened, newest first: by kind and by words, with the photos of that day; laid out as far as it is seen. */
export function TimeLine({ scroller }: { scroller: HTMLElement | null }) {
  const { machine } = useWorkbench();
  const { photos } = useJob();
  const [search, setSearch] = useSearchParams();
  const kinds = (search.get('kinds') ?? '').split(',').flatMap((name): EntryKind[] => {
    const kind = oneOf(ENTRY_KINDS, name);
    return kind ? [kind] : [];
  });
  const words = search.get('words') ?? '';
  const asked = useDeferredValue(words.trim());
  const filter = { ...(kinds.length > 0 && { kinds: kinds.join(',') }), ...(asked !== '' && { words: asked }) };
  const pages = useInfiniteQuery({
    // Under the entries: whoever writes one makes both known anew.
    queryKey: [...heldOf(machine.id, 'entries'), 'timeline', filter],
    queryFn: ({ pageParam }) => api.timeline({ id: machine.id, ...filter, ...(pageParam !== undefined && { from: pageParam }) }),
    initialPageParam: undefined as string | undefined, // the first page is asked for without one
    getNextPageParam: (last, all) => {
      const read = all.reduce((sum, { entries }) => sum + entries.length, 0);
      const end = last.entries.at(-1);
      return read < last.total && end ? String(end.id) : undefined;
    },
    placeholderData: (before) => before,
  });
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  const shown = useMemo((): Shown[] => {
    const entries = (data?.pages ?? []).flatMap((page) => page.entries);
    const last = entries.at(-1)?.at ?? '';
    const seen = kinds.length === 0 && asked === '' ? photos.filter(({ at }) => at >= last || !hasNextPage) : [];
    return [
      ...entries.map((entry): Shown => ({ kind: 'entry', at: entry.at, entry })),
      ...seen.map(({ id, at, title }): Shown => ({ kind: 'photo', at, id, title })),
    ].sort((one, other) => (one.at < other.at ? 1 : one.at > other.at ? -1 : 0));
  }, [data, photos, kinds.length, asked, hasNextPage]);
  const list = useRef<HTMLOListElement>(null);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller,
    estimateSize: () => LINE_PX,
    overscan: 12,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  const items = rows.getVirtualItems();
  const lastSeen = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && lastSeen > shown.length - AHEAD) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage, lastSeen, shown.length]);
  const total = data?.pages[0]?.total;
  const set = (name: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return (
    <>
      <div className={css.filter} role="search" aria-label="The time line">
        <TextInput
          size="xs"
          label="With the words"
          value={words}
          onChange={(event) => set('words', event.currentTarget.value)}
        />
        <fieldset>
          <legend>Only</legend>
          {ENTRY_KINDS.map((kind) => (
            <Checkbox
              key={kind}
              size="xs"
              label={KIND_WORD[kind]}
              checked={kinds.includes(kind)}
              onChange={(event) => set('kinds', (event.currentTarget.checked ? [...kinds, kind] : kinds.filter((one) => one !== kind)).join(','))}
            />
          ))}
        </fieldset>
      </div>
      <p className="soft" role="status">
        {pages.error
          ? `The logbook cannot be read: ${pages.error.message}`
          : total === undefined
            ? 'The logbook is read.'
            : total === 0
              ? kinds.length > 0 || asked !== '' ? 'No entry is like that.' : 'Nothing yet. Builds, flashes and proofs are written here by themselves.'
              : `${total} ${total === 1 ? 'entry' : 'entries'}`}
      </p>
      <ol className={css.line} ref={list} style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {items.map(({ index, start, key }) => {
          const line = shown[index];
          if (!line) return null;
          return (
            <li
              key={key}
              data-index={index}
              ref={rows.measureElement}
              data-kind={line.kind === 'entry' ? line.entry.kind : 'photo'}
              aria-setsize={total ?? -1}
              aria-posinset={index + 1}
              style={{ position: 'absolute', left: 0, right: 0, transform: `translateY(${start - rows.options.scrollMargin}px)` }}
            >
              {line.kind === 'entry' ? <EntryLine entry={line.entry} /> : (
                <>
                  <time className="figures" dateTime={line.at}>{dayOf(line.at)} <small>{timeOf(line.at)}</small></time>
                  <b>photo</b>
                  <a href={photoUrl(machine.id, line.id)} target="_blank" rel="noreferrer">
                    <img src={photoUrl(machine.id, line.id)} alt={line.title} height="64" loading="lazy" /> {line.title}
                  </a>
                </>
              )}
            </li>
          );
        })}
      </ol>
    </>
  );
} // prettier-ignore
