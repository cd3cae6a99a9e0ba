import type { Header } from '@jolly/core/board/board';
import { type BoardDraft, copyOf, freshHeader } from '@jolly/core/board/boardDraft';
import { HEADER_FORM } from '@jolly/core/board/boardForm';
import { contactWords, parseContacts } from '@jolly/core/board/contactWords';
import { parseNet } from '@jolly/core/board/net';
import { whyOf } from '@jolly/core/text/whyOf';
import { Autocomplete, Button, TextInput } from '@mantine/core';
import { Fragment, type RefObject, useEffect, useRef, useState } from 'react';
import type { Filling } from '../../ui/form/filling';
import { FormFields } from '../../ui/form/FormFields';
import { useTyped } from '../../ui/useTyped';
import type { Chosen } from './canvasKeys';
import css from './Boards.module.css';

/** What headers are usually for; any other words may be typed. */
const PURPOSES = [
  'X switch', 'Y switch', 'Z switch', 'bed probe', 'filament sensor', 'servo', 'hot-end sensor', 'bed sensor', 'chamber sensor',
  'hot-end heater', 'bed heater', 'part fan', 'hot-end fan', 'board fan', 'lamp', 'display', 'main supply', 'additions', '5 V out',
]; // prettier-ignore

/** Every header as a row: name, purpose, contacts; Enter in the contacts makes one more like it, its pins numbered on. */
export function HeadersForm({
  board,
  chosen,
  onChoose,
  onHeaders,
  families,
  ...filling
}: Omit<Filling, 'base' | 'whole'> & {
  board: BoardDraft;
  chosen: Chosen | undefined;
  onChoose: (chosen: Chosen | undefined) => void;
  /** Changes the headers as they are by then. */
  onHeaders: (to: (headers: Header[]) => Header[]) => void;
  /** Plug families of the catalogue, each with its pitch in millimetres. */
  families: ReadonlyMap<string, number>;
}) {
  const { headers } = board;
  const index = chosen?.header ?? -1;
  const header = headers[index];
  const putHeader = (at: number, part: Partial<Header>) =>
    onHeaders((now) => now.map((one, place) => (place === at ? { ...one, ...part } : one)));
  const add = (more: Header, after = headers.length) => {
    onHeaders((now) => [...now.slice(0, after), more, ...now.slice(after)]);
    onChoose({ header: after, contact: 0 });
  };
  return (
    <>
      <p className={`soft ${css.words}`}>
        Contacts in order: <code>5v gnd 10</code> is a supply, ground and pin 10; <code>s40</code> a switched
        output on pin 40; <code>20..27</code> counts on; <code>nc</code> nothing; <code>?</code> not known
        yet. Enter makes one more like it, its pins numbered on.
      </p>
      <datalist id="header-purposes">
        {PURPOSES.map((purpose) => (
          <option key={purpose} value={purpose} />
        ))}
      </datalist>
      {headers.map((one, at) => (
        <Fragment key={at}>
          <HeaderRow
            header={one}
            taken={headers.filter((_other, place) => place !== at).map(({ id }) => id)}
            chosen={at === index}
            onChoose={() => onChoose({ header: at })}
            onSet={(part) => putHeader(at, part)}
            onFor={(words) => filling.onSet(['headers', at, 'for'], words || undefined)}
            onMore={(part) => {
              const now = { ...one, ...part };
              const copy = copyOf({ ...board, headers: headers.map((other, place) => (place === at ? now : other)) }, now); // prettier-ignore
              onHeaders((all) => [...all.slice(0, at), now, copy, ...all.slice(at + 1)]);
              onChoose({ header: at + 1 });
            }}
          />
          {header && at === index && (
            <ChosenHeader
              {...{ board, index, families }}
              onHeader={(part) => putHeader(index, part)}
              onMore={() => add(copyOf(board, header), index + 1)}
              onTakeOut={() => {
                onHeaders((now) => now.filter((_one, at) => at !== index));
                onChoose(undefined);
              }}
              {...filling}
            />
          )}
        </Fragment>
      ))}
      <div className="row">
        <Button size="xs" variant="default" onClick={() => add(freshHeader(board))}>
          One more header
        </Button>
        {filling.onPoint && (
          <Button
            size="xs"
            variant="default"
            onClick={() =>
              filling.onPoint?.('contact 1 of a new header', (at) => add(freshHeader(board, at)))
            }
          >
            Point at its contact 1
          </Button>
        )}
      </div>
    </>
  );
}

/** What else is known of the header that is chosen. */
function ChosenHeader({
  board,
  index,
  families,
  onHeader,
  onMore,
  onTakeOut,
  ...filling
}: Omit<Filling, 'base' | 'whole'> & {
  board: BoardDraft;
  index: number;
  families: ReadonlyMap<string, number>;
  onHeader: (part: Partial<Header>) => void;
  onMore: () => void;
  onTakeOut: () => void;
}) {
  const header = board.headers[index];
  if (!header) return null;
  return (
    <fieldset className={css.more}>
      <legend>{header.id}</legend>
      <PlugFamily key={header.id} family={header.family} families={families} onFamily={onHeader} />
      <FormFields whole={board} base={['headers', index]} fields={HEADER_FORM} {...filling} />
      <div className="row">
        <Button size="compact-sm" variant="default" onClick={onMore}>
          {`One more like ${header.id}`}
        </Button>
        <Button size="compact-sm" variant="subtle" onClick={onTakeOut}>
          {`Take out ${header.id}`}
        </Button>
      </div>
    </fieldset>
  );
}

/** Of a plug family that is known, its pitch comes along. */
function PlugFamily({
  family,
  families,
  onFamily,
}: {
  family: string;
  families: ReadonlyMap<string, number>;
  onFamily: (part: Partial<Header>) => void;
}) {
  const { text, setText, leave } = useTyped(family);
  const take = (words: string) => {
    leave();
    const pitch = families.get(words);
    if (words !== family) onFamily({ family: words, ...(pitch !== undefined && { pitch_mm: pitch }) });
  };
  return (
    <Autocomplete
      size="sm"
      label="Plug family"
      description="Of one that is known, the pitch comes along."
      data={[...families.keys()]}
      value={text}
      onChange={setText}
      maxLength={40}
      comboboxProps={{ withinPortal: false }}
      onOptionSubmit={take}
      onBlur={() => take(text.trim())}
    />
  );
}

const ID = /^[A-Z0-9]+(-[A-Z0-9]+)*$/;

function HeaderRow({
  header,
  taken,
  chosen,
  onChoose,
  onSet,
  onFor,
  onMore,
}: {
  header: Header;
  taken: readonly string[];
  chosen: boolean;
  onChoose: () => void;
  onSet: (part: Partial<Header>) => void;
  onFor: (words: string) => void;
  /** Takes this in, and makes one more like it. */
  onMore: (part: Partial<Header>) => void;
}) {
  const words = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<string>();
  // A header that was just made is gone on with where its contacts are typed.
  const shown = useRef(false);
  useEffect(() => {
    if (chosen && !shown.current && document.activeElement?.closest('[data-header-row]')) words.current?.select();
    shown.current = chosen;
  }, [chosen]); // prettier-ignore
  const nameIt = (text: string) => {
    const id = text.trim().toUpperCase();
    if (id === header.id) return setWrong(undefined);
    if (!ID.test(id)) return setWrong('A name is letters and figures, parted by -');
    if (taken.includes(id)) return setWrong(`There is a ${id} already`);
    setWrong(undefined);
    onSet({ id });
  };
  const contactsIn = (text: string): Partial<Header> | undefined => {
    try {
      const contacts = parseContacts(text);
      if (contacts.length === 0) throw new Error('A header has at least one contact');
      setWrong(undefined);
      return { contacts };
    } catch (error) {
      setWrong(whyOf(error));
      return undefined;
    }
  };
  return (
    <div className={css.headerRow} role="group" aria-label={`Header ${header.id}`} data-header-row data-chosen={chosen} onFocus={onChoose}>
      <RowField label="Name" longest={20} shown={header.id} onLeave={nameIt} />
      <RowField
        label="For" longest={60} shown={header.for ?? ''} placeholder="for" list="header-purposes"
        onLeave={(text) => text.trim() !== (header.for ?? '') && onFor(text.trim())}
      />
      <RowField
        label="Contacts in order" field={words} shown={contactWords(header.contacts)}
        onLeave={(text) => {
          if (text.trim() === contactWords(header.contacts)) return;
          const part = contactsIn(text);
          if (part) onSet(part);
        }}
        onEnter={(text) => {
          const part = contactsIn(text);
          if (part) onMore(part);
        }}
      />
      <span className={css.amps} data-wanted={wantsAmps(header)}>{header.max_a === undefined ? (wantsAmps(header) ? '? A' : '') : `${header.max_a} A`}</span>
      {wrong && <p className={css.wrong} role="alert">{wrong}</p>}
    </div>
  ); // prettier-ignore
}

/** A field in the row of a header, kept when it is left. */
function RowField({
  label,
  shown,
  longest,
  onLeave,
  onEnter,
  field,
  ...more
}: {
  label: string;
  shown: string;
  longest?: number;
  onLeave: (text: string) => void;
  onEnter?: (text: string) => void;
  field?: RefObject<HTMLInputElement | null>;
  placeholder?: string;
  list?: string;
}) {
  const { text, setText, leave } = useTyped(shown);
  return (
    <TextInput
      size="xs"
      aria-label={label}
      ref={field ?? null}
      value={text}
      {...(longest !== undefined && { maxLength: longest })}
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={() => {
        leave();
        onLeave(text);
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' || !onEnter) return;
        leave();
        onEnter(text);
      }}
      {...more}
    />
  );
}

const wantsAmps = ({ contacts, max_a }: Header): boolean =>
  max_a === undefined && contacts.some((net) => ['supply', 'sw'].includes(parseNet(net).kind));
