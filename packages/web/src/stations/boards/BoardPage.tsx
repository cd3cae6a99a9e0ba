import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Header } from '@jolly/core/board/board';
import { copyOf } from '@jolly/core/board/boardDraft';
import { BOARD_FORM } from '@jolly/core/board/boardForm';
import { nextNet } from '@jolly/core/board/contactWords';
import { parseNet } from '@jolly/core/board/net';
import { Button, Slider } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { askedCatalogue } from '../../api/asked';
import { boardPhotoUrl } from '../../api/api';
import { Whole } from '../../app/frame/Whole';
import { DescribingPage } from '../../app/frame/DescribingPage';
import { FormFields } from '../../ui/form/FormFields';
import { KeptNote } from '../../app/KeptNote';
import { SectionList } from '../../ui/SectionList';
import { useTitle } from '../../ui/useTitle';
import { AddBoard } from './AddBoard';
import { BoardCanvas } from './BoardCanvas';
import type { Chosen } from './canvasKeys';
import { BoardFile } from './BoardFile';
import css from './Boards.module.css';
import { ChipChoice } from './ChipChoice';
import { HeadersForm } from './HeadersForm';
import { PhotoForm } from './PhotoForm';
import { PhotoMarks } from './PhotoMarks';
import { SECTIONS, sectionOf } from './sections';
import { type Drawing, useBegunBoard } from './useBegunBoard';
import { useBoardProblems } from './useBoardProblems';
import { useStraight } from './useStraight';

/** A board nobody has described yet: looked at, drawn and checked while it is described. */
export function BoardPage() {
  const { id = '' } = useParams();
  const drawing = useBegunBoard(id);
  const catalogue = useQuery(askedCatalogue);
  if (drawing && 'failed' in drawing)
    return <Whole title="This board cannot be opened" text={drawing.failed.message} back />;
  if (!drawing || !catalogue.data) return <Whole title="One moment" text="The board is being fetched." />;
  return <Describing id={id} drawing={drawing} catalogue={catalogue.data} />;
}

function Describing({ id, drawing, catalogue }: { id: string; drawing: Drawing; catalogue: Catalogue }) {
  const [search, setSearch] = useSearchParams();
  const at = search.get('at') ?? 'board';
  const back = search.get('for');
  const [chosen, setChosen] = useState<Chosen>();
  const [pointing, setPointing] = useState<Pointing>();
  const problems = useBoardProblems(drawing.begun, catalogue);
  const name = drawing.begun.board.name ?? 'A new board';
  useTitle('Describe a board', name);
  useEffect(() => {
    const leave = (event: KeyboardEvent) => event.key === 'Escape' && setPointing(undefined);
    window.addEventListener('keydown', leave);
    return () => window.removeEventListener('keydown', leave);
  }, []);
  const go = (to: string) => setSearch((now) => ({ ...Object.fromEntries(now), at: to }));
  const shown = { id, at, drawing, catalogue, chosen, onChoose: setChosen };
  return (
    <DescribingPage
      {...(back && { back: { to: back, words: 'Back to where it is wanted' } })}
      title={name}
      note={<KeptNote saved={drawing.saved} what="What you say" />}
      columns="150px minmax(0, 470px) minmax(0, 1fr)"
      parts={
        <SectionList
          label="Parts of the board"
          entries={SECTIONS.map((section) => {
            const open = problems?.filter(({ path }) => sectionOf(path) === section).length ?? 0;
            return { id: section.id, title: section.title, ...(open > 0 && { mark: `${open} open` }) };
          })}
          at={at}
          leads={(id, now) => ({ ...now, at: id })}
        />
      }
      asked={SECTIONS.find((section) => section.id === at)?.title ?? 'Board'}
      side={
        <>
          <Looks {...shown} pointing={pointing} onPointed={() => setPointing(undefined)} onAt={go} />
          <AddBoard id={id} drawing={drawing} problems={problems} onAt={go} back={back} />
        </>
      }
    >
      <Asked {...shown} onPoint={(label, take) => setPointing({ label, take })} />
    </DescribingPage>
  );
}

type Place = { x: number; y: number };
/** What the next click on the drawing is for. */
interface Pointing {
  label: string;
  take: (at: Place) => void;
}
interface Shown {
  id: string;
  at: string;
  drawing: Drawing;
  catalogue: Catalogue;
  chosen: Chosen | undefined;
  onChoose: (chosen: Chosen | undefined) => void;
}

/** The part of the form that is open. */
function Asked({
  id,
  at,
  drawing,
  catalogue,
  chosen,
  onChoose,
  onPoint,
}: Shown & { onPoint: (label: string, take: (at: Place) => void) => void }) {
  const families = useMemo(() => familiesOf(catalogue), [catalogue]);
  const filling = { onSet: drawing.set, onPoint };
  const { board } = drawing.begun;
  const page = BOARD_FORM.find((entry) => entry.id === at);
  if (at === 'file') return <BoardFile drawing={drawing} catalogue={catalogue} />;
  if (at === 'photo')
    return (
      <>
        <h2>A photo to draw over</h2>
        <PhotoForm id={id} drawing={drawing} />
      </>
    );
  if (at === 'headers')
    return (
      <>
        <h2>Headers</h2>
        <HeadersForm
          board={board}
          chosen={chosen}
          onChoose={onChoose}
          onHeaders={(to) =>
            drawing.change((now) => ({ ...now, board: { ...now.board, headers: to(now.board.headers) } }))
          }
          families={families}
          {...filling}
        />
      </>
    );
  return (
    page && (
      <>
        <h2>{page.title}</h2>
        <p className={css.hint}>{page.hint}</p>
        {page.id === 'board' && <ChipChoice drawing={drawing} catalogue={catalogue} />}
        <FormFields whole={board} base={[]} fields={page.fields} heading={page.title} {...filling} />
      </>
    )
  );
}

/** The board as it is drawn so far; on the page of its photo, the photo with its marks. */
function Looks({
  id,
  at,
  drawing,
  chosen,
  onChoose,
  pointing,
  onPointed,
  onAt,
}: Shown & { pointing: Pointing | undefined; onPointed: () => void; onAt: (section: string) => void }) {
  const [shine, setShine] = useState(0.7);
  const straight = useStraight(id, drawing.begun);
  const { board, photo } = drawing.begun;
  if (at === 'photo' && photo)
    return (
      <>
        <PhotoMarks
          url={boardPhotoUrl(id, photo.hash)}
          photo={photo}
          onPhoto={(part) =>
            drawing.change((now) => (now.photo ? { ...now, photo: { ...now.photo, ...part } } : now))
          }
        />
        {straight.why && <p role="alert">{straight.why}</p>}
      </>
    );
  return (
    <>
      {pointing && (
        <p className={css.pointing} role="status">
          Point at it on the drawing: {pointing.label}.{' '}
          <Button size="compact-xs" variant="default" onClick={onPointed}>
            Leave it
          </Button>
        </p>
      )}
      <BoardCanvas
        board={board}
        photo={straight.url}
        shine={shine}
        chosen={chosen}
        onChoose={(next) => {
          onChoose(next);
          if (next && at !== 'headers') onAt('headers');
        }}
        pointing={
          pointing &&
          ((to) => {
            pointing.take(to);
            onPointed();
          })
        }
        {...handsOf(drawing, onChoose)}
      />
      {straight.why && <p role="alert">{straight.why}</p>}
      {straight.url && (
        <div className={css.shine}>
          <span>The photo shines through</span>
          <Slider value={shine} onChange={setShine} min={0} max={1} step={0.05} label={null} thumbLabel="How much the photo shines through" />
        </div>
      )}
      <DrawingKeys />
    </>
  ); // prettier-ignore
}

const familiesOf = ({ boards }: Catalogue): ReadonlyMap<string, number> =>
  new Map(boards.flatMap(({ headers }) => headers.map(({ family, pitch_mm }): [string, number] => [family, pitch_mm]))); // prettier-ignore

/** What the drawing does to headers. */
function handsOf({ begun: { board }, set }: Drawing, choose: (chosen: Chosen) => void) {
  const { headers } = board;
  const put = (header: number, part: Partial<Header>) =>
    set(['headers'], headers.map((one, at) => (at === header ? { ...one, ...part } : one))); // prettier-ignore
  const name = ({ header: index, contact }: Chosen, net: string) => {
    const header = headers[index];
    if (!header || contact === undefined) return;
    put(index, { contacts: header.contacts.map((one, at) => (at === contact ? net : one)) });
    choose({ header: index, contact: Math.min(header.contacts.length - 1, contact + 1) });
  };
  return {
    onHeader: put,
    onNet: name,
    onNext: (chosen: Chosen, kind: 'sig' | 'sw') => name(chosen, nextOf(headers, chosen, kind)),
    onCopy(index: number) {
      const header = headers[index];
      if (!header) return;
      set(['headers'], [...headers.slice(0, index + 1), copyOf(board, header), ...headers.slice(index + 1)]);
      choose({ header: index + 1, contact: 0 });
    },
  };
}

/** The pin after the one of its kind that was named last before this contact, header by header. */
function nextOf(headers: readonly Header[], { header, contact = 0 }: Chosen, kind: 'sig' | 'sw'): string {
  const before = headers.slice(0, header + 1).flatMap(({ contacts }, at) => (at === header ? contacts.slice(0, contact) : contacts)); // prettier-ignore
  const last = before.findLast((net) => parseNet(net).kind === kind);
  return last === undefined ? `${kind}:p0` : nextNet(last);
}

function DrawingKeys() {
  return (
    <details className={css.keys}>
      <summary>Keys on the drawing</summary>
      Page Up and Down step through the headers, arrows move one (Shift: far, Alt: a little), <kbd>r</kbd> turns it,{' '}
      <kbd>c</kbd> makes one more; <kbd>,</kbd> and <kbd>.</kbd> step through its contacts, and each of these names
      one and goes on: <kbd>g</kbd> ground, <kbd>5</kbd> 5 V, <kbd>3</kbd> 3.3 V, <kbd>1</kbd> 12 V, <kbd>v</kbd> what
      feeds the board, <kbd>s</kbd> the next signal, <kbd>w</kbd> the next switched output, <kbd>x</kbd> nothing,{' '}
      <kbd>?</kbd> not known.
    </details>
  ); // prettier-ignore
}
