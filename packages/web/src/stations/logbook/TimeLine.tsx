import { Checkbox, TextInput } from '@mantine/core';
import type { EntryKind } from '@jolly/contract/endpoints/machines';
import { ENTRY_KINDS } from '@jolly/contract/endpoints/machines';
import { oneOf } from '@jolly/core/tree/keysOf';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type Ref, useDeferredValue, useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { photoUrl } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { dayOf, timeOf } from '../../ui/when';
import { EntryLine, KIND_WORD } from './EntryLine';
import css from './LogbookStation.module.css';
import { type Shown, useTimeLine } from './useTimeLine';

/** What a line is about as high as before it has been laid out, in px. */
const LINE_PX = 52;
/** The next page is asked for so many lines before the end. */
const AHEAD = 30;

/** Everything that happened, newest first: by kind and by words, with the photos of that day; laid out as far as it is seen. */
export function TimeLine({ scroller }: { scroller: HTMLElement | null }) {
  const { machine } = useWorkbench();
  const { kinds, words, set } = useWanted();
  const asked = useDeferredValue(words.trim());
  const { shown, total, error, more } = useTimeLine(machine.id, kinds, asked);
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
    if (lastSeen > shown.length - AHEAD) more();
  }, [more, lastSeen, shown.length]);
  return (
    <>
      <Filter kinds={kinds} words={words} set={set} />
      <p className="soft" role="status">
        {error
          ? `The logbook cannot be read: ${error.message}`
          : total === undefined
            ? 'The logbook is read.'
            : countInWords(total, kinds.length > 0 || asked !== '')}
      </p>
      <ol className={css.line} ref={list} style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {items.map(({ index, start, key }) => {
          const line = shown[index];
          return (
            line && (
              <Line
                key={key}
                {...{ line, index, total }}
                laid={rows.measureElement}
                top={start - rows.options.scrollMargin}
              />
            )
          );
        })}
      </ol>
    </>
  );
}

function countInWords(total: number, filtered: boolean): string {
  if (total > 0) return `${total} ${total === 1 ? 'entry' : 'entries'}`;
  return filtered
    ? 'No entry is like that.'
    : 'Nothing yet. Builds, flashes and proofs are written here by themselves.';
}

/** Which entries are wanted stands in the address. */
function useWanted() {
  const [search, setSearch] = useSearchParams();
  const kinds = (search.get('kinds') ?? '').split(',').flatMap((name): EntryKind[] => {
    const kind = oneOf(ENTRY_KINDS, name);
    return kind ? [kind] : [];
  });
  const set = (name: 'words' | 'kinds', value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return { kinds, words: search.get('words') ?? '', set };
}

function Filter({ kinds, words, set }: ReturnType<typeof useWanted>) {
  const turn = (kind: EntryKind, on: boolean) =>
    set('kinds', (on ? [...kinds, kind] : kinds.filter((one) => one !== kind)).join(','));
  return (
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
            onChange={(event) => turn(kind, event.currentTarget.checked)}
          />
        ))}
      </fieldset>
    </div>
  );
}

/** One line, as far down as those before it are high. */
function Line({
  line,
  index,
  total,
  top,
  laid,
}: {
  line: Shown;
  index: number;
  total: number | undefined;
  top: number;
  laid: Ref<HTMLLIElement>;
}) {
  return (
    <li
      data-index={index}
      ref={laid}
      data-kind={line.kind === 'entry' ? line.entry.kind : 'photo'}
      aria-setsize={total ?? -1}
      aria-posinset={index + 1}
      style={{ position: 'absolute', left: 0, right: 0, transform: `translateY(${top}px)` }}
    >
      {line.kind === 'entry' ? <EntryLine entry={line.entry} /> : <PhotoLine {...line} />}
    </li>
  );
}

function PhotoLine({ at, id, title }: Extract<Shown, { kind: 'photo' }>) {
  const { machine } = useWorkbench();
  const href = photoUrl(machine.id, id);
  return (
    <>
      <time className="figures" dateTime={at}>
        {dayOf(at)} <small>{timeOf(at)}</small>
      </time>
      <b>photo</b>
      <a href={href} target="_blank" rel="noreferrer">
        <img src={href} alt={title} height="64" loading="lazy" /> {title}
      </a>
    </>
  );
}
