import type { Header } from '@jolly/core/board/board';
import { type BoardDraft, copyOf, freshHeader } from '@jolly/core/board/boardDraft';
import { HEADER_FORM } from '@jolly/core/board/boardForm';
import { contactWords, parseContacts } from '@jolly/core/board/contactWords';
import { parseNet } from '@jolly/core/board/net';
import { whyOf } from '@jolly/core/text/whyOf';
import { Autocomplete, Button, TextInput } from '@mantine/core';
import { Fragment, useEffect, useRef, useState } from 'react';
import type { Filling } from '../../ui/form/filling';
import { FormFields } from '../../ui/form/FormFields';
import type { Chosen } from './BoardCanvas';
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
  onHeaders: (headers: Header[]) => void;
  /** Plug families of the catalogue, each with its pitch in millimetres. */
  families: ReadonlyMap<string, number>;
}) {
  const { headers } = board;
  const index = chosen?.header ?? -1;
  const header = headers[index];
  const putHeader = (at: number, part: Partial<Header>) =>
    onHeaders(headers.map((one, place) => (place === at ? { ...one, ...part } : one)));
  const add = (more: Header, after = headers.length) => {
    onHeaders([...headers.slice(0, after), more, ...headers.slice(after)]);
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
              onHeaders([...headers.slice(0, at), now, copy, ...headers.slice(at + 1)]);
              onChoose({ header: at + 1 });
            }}
          />
          {header && at === index && (
            <fieldset className={css.more}>
              <legend>{header.id}</legend>
              <PlugFamily
                key={`${header.id} ${header.family}`}
                family={header.family}
                families={families}
                onFamily={(part) => putHeader(index, part)}
              />
              <FormFields whole={board} base={['headers', index]} fields={HEADER_FORM} {...filling} />
              <div className="row">
                <Button
                  size="compact-sm"
                  variant="default"
                  onClick={() => add(copyOf(board, header), index + 1)}
                >
                  {`One more like ${header.id}`}
                </Button>
                <Button
                  size="compact-sm"
                  variant="subtle"
                  onClick={() => {
                    onHeaders(headers.filter((_one, at) => at !== index));
                    onChoose(undefined);
                  }}
                >
                  {`Take out ${header.id}`}
                </Button>
              </div>
            </fieldset>
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
  const take = (words: string) => {
    const pitch = families.get(words);
    if (words !== family) onFamily({ family: words, ...(pitch !== undefined && { pitch_mm: pitch }) });
  };
  return (
    <Autocomplete
      size="sm"
      label="Plug family"
      description="Of one that is known, the pitch comes along."
      data={[...families.keys()]}
      defaultValue={family}
      maxLength={40}
      comboboxProps={{ withinPortal: false }}
      onOptionSubmit={take}
      onBlur={(event) => take(event.currentTarget.value.trim())}
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
      <TextInput key={header.id} size="xs" aria-label="Name" defaultValue={header.id} maxLength={20} onBlur={(event) => nameIt(event.currentTarget.value)} />
      <TextInput
        key={`for ${header.for ?? ''}`} size="xs" aria-label="For" placeholder="for" defaultValue={header.for ?? ''} maxLength={60} list="header-purposes"
        onBlur={({ currentTarget: { value } }) => value.trim() !== (header.for ?? '') && onFor(value.trim())}
      />
      <TextInput
        key={`contacts ${header.contacts.join()}`} ref={words} size="xs" aria-label="Contacts in order" defaultValue={contactWords(header.contacts)}
        onBlur={({ currentTarget: { value } }) => {
          if (value.trim() === contactWords(header.contacts)) return;
          const part = contactsIn(value);
          if (part) onSet(part);
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          const part = contactsIn(event.currentTarget.value);
          if (part) onMore(part);
        }}
      />
      <span className={css.amps} data-wanted={wantsAmps(header)}>{header.max_a === undefined ? (wantsAmps(header) ? '? A' : '') : `${header.max_a} A`}</span>
      {wrong && <p className={css.wrong} role="alert">{wrong}</p>}
    </div>
  ); // prettier-ignore
}

const wantsAmps = ({ contacts, max_a }: Header): boolean =>
  max_a === undefined && contacts.some((net) => ['supply', 'sw'].includes(parseNet(net).kind));
