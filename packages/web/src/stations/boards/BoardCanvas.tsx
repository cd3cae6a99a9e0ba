import { type BoardDraft, looksOf } from '@jolly/core/board/boardDraft';
import type { Header } from '@jolly/core/board/board';
import { contactAt, plugRoom } from '@jolly/core/board/plugRoom';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { BoardShape } from '../../ui/BoardShape';
import css from './Boards.module.css';

export interface Chosen {
  /** Its place in the list: a header keeps it under another name. */
  header: number;
  /** From 0; undefined where the header as a whole is meant. */
  contact?: number | undefined;
}
type At = { x: number; y: number };

/** Keys that say what the chosen contact is. */
const NET_KEYS: Readonly<Record<string, string>> = { g: 'gnd', '5': '5v', '3': '3v3', '1': '12v', v: 'vin', x: 'nc', '?': '?' }; // prettier-ignore
const ARROWS: Readonly<Record<string, At>> = { ArrowLeft: { x: -1, y: 0 }, ArrowRight: { x: 1, y: 0 }, ArrowUp: { x: 0, y: 1 }, ArrowDown: { x: 0, y: -1 } }; // prettier-ignore
const STEP = 0.5;
const LEAP = 5;
const tenth = (value: number) => Math.round(value * 10) / 10;

/**
 * The board as it is described so far, its photo shining through. With the mouse headers are chosen and dragged; by keys
 * they are stepped through, moved, turned, copied, and their contacts named.
 */
export function BoardCanvas({
  board,
  photo,
  shine,
  chosen,
  onChoose,
  onHeader,
  onCopy,
  onNet,
  onNext,
  pointing,
}: {
  board: BoardDraft;
  /** The straightened photo, as an address. */
  photo: string | undefined;
  /** How much of the photo is seen, 0 to 1. */
  shine: number;
  chosen: Chosen | undefined;
  onChoose: (chosen: Chosen | undefined) => void;
  onHeader: (header: number, part: Partial<Header>) => void;
  onCopy: (header: number) => void;
  onNet: (chosen: Chosen, net: string) => void;
  /** Numbers on: the next pin of its kind into the chosen contact. */
  onNext: (chosen: Chosen, kind: 'sig' | 'sw') => void;
  /** The next click is a point, not a choice. */
  pointing: ((at: At) => void) | undefined;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<{ header: number; from: At; by: At }>();
  const moved = dragged ? { ...board, headers: board.headers.map((header, at) => (at === dragged.header ? shifted(header, dragged.by) : header)) } : board; // prettier-ignore
  const looks = looksOf(moved);
  const { x: width, y: depth } = looks.outline_mm;
  const header = chosen && looks.headers[chosen.header];

  const mmOf = (event: PointerEvent): At => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return { x: 0, y: 0 };
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x: tenth(point.x), y: tenth(depth - point.y) };
  };
  const onDown = (event: PointerEvent<SVGSVGElement>) => {
    const at = mmOf(event);
    if (pointing) return pointing(at);
    const hit = looks.headers.findLastIndex((one) => within(one, at));
    const header = looks.headers[hit];
    onChoose(header && { header: hit, contact: contactNear(header, at) });
    if (!header) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setDragged({ header: hit, from: at, by: { x: 0, y: 0 } });
  };
  const onMove = (event: PointerEvent<SVGSVGElement>) => {
    if (!dragged) return;
    const at = mmOf(event);
    setDragged({ ...dragged, by: { x: at.x - dragged.from.x, y: at.y - dragged.from.y } });
  };
  const onUp = () => {
    const at = dragged && looks.headers[dragged.header]?.at_mm;
    // A hand that trembles at a click has not moved a header.
    if (dragged && at && Math.hypot(dragged.by.x, dragged.by.y) >= STEP)
      onHeader(dragged.header, { at_mm: at });
    setDragged(undefined);
  };
  const onKey = (event: KeyboardEvent) => {
    if (keyed(event)) event.preventDefault();
  };
  const keyed = (event: KeyboardEvent): boolean => {
    const { key } = event;
    if (event.ctrlKey || event.metaKey) return false;
    if (key === 'PageDown' || key === 'PageUp') return step(key === 'PageDown' ? 1 : -1);
    if (!header || !chosen) return false;
    const way = ARROWS[key];
    if (way) {
      const by = event.shiftKey ? LEAP : event.altKey ? 0.1 : STEP;
      onHeader(chosen.header, { at_mm: { x: tenth(header.at_mm.x + way.x * by), y: tenth(header.at_mm.y + way.y * by) } }); // prettier-ignore
      return true;
    }
    if (key === 'r') onHeader(chosen.header, { runs: header.runs === 'up' ? 'right' : 'up' });
    else if (key === 'c') onCopy(chosen.header);
    else if (key === '.' || key === ',')
      onChoose({ header: chosen.header, contact: contactBeside(header, key) });
    else return named(key);
    return true;
  };
  const step = (by: number): boolean => {
    const count = looks.headers.length;
    const from = chosen?.header ?? (by > 0 ? -1 : 0);
    if (count > 0) onChoose({ header: (from + by + count) % count, contact: 0 });
    return true;
  };
  const contactBeside = ({ contacts }: Header, key: string): number => {
    const at = chosen?.contact ?? -1;
    return Math.min(contacts.length - 1, Math.max(0, at + (key === '.' ? 1 : -1)));
  };
  const named = (key: string): boolean => {
    if (!chosen) return false;
    const net = NET_KEYS[key];
    if (net !== undefined) onNet(chosen, net);
    else if (key === 's' || key === 'w') onNext(chosen, key === 's' ? 'sig' : 'sw');
    else return false;
    return true;
  };

  return (
    // The drawing is worked as one thing: chosen, moved and named by keys or by the mouse; its words tell what is chosen.
    <div
      className={css.glass}
      role="application"
      aria-label={`Drawing of the board, ${looks.headers.length} headers. ${header ? saysOf(header, chosen?.contact) : 'None is chosen; Page Down chooses the first.'}`}
      tabIndex={0}
      onKeyDown={onKey}
      data-pointing={pointing !== undefined}
    >
      <svg
        ref={svg}
        viewBox={`-5 -5 ${width + 10} ${depth + 10}`}
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={() => setDragged(undefined)}
      >
        {photo && (
          <image href={photo} width={width} height={depth} preserveAspectRatio="none" opacity={shine} />
        )}
        <g opacity={photo ? 1 - shine * 0.55 : 1} data-over-photo={photo !== undefined} className={css.drawn}>
          <BoardShape board={looks} names />
        </g>
        {header && <Ring header={header} contact={chosen?.contact} depth={depth} />}
      </svg>
    </div>
  );
}

const shifted = (header: Header, by: At): Header => ({ ...header, at_mm: { x: tenth(header.at_mm.x + by.x), y: tenth(header.at_mm.y + by.y) } }); // prettier-ignore

function within(header: Header, at: At): boolean {
  const { left, right, front, back } = plugRoom(header);
  return at.x >= left && at.x <= right && at.y >= front && at.y <= back;
}

function contactNear(header: Header, at: At): number {
  const far = header.contacts.map((_net, index) => {
    const place = contactAt(header, index + 1);
    return Math.hypot(place.x - at.x, place.y - at.y);
  });
  return far.indexOf(Math.min(...far));
}

function saysOf(header: Header, contact: number | undefined): string {
  const place = `${header.id} at ${header.at_mm.x} mm from left, ${header.at_mm.y} mm from front`;
  return contact === undefined ? `${place}.` : `${place}; contact ${contact + 1} of ${header.contacts.length}: ${header.contacts[contact] ?? '?'}.`; // prettier-ignore
}

/** What is chosen: its header framed, its contact ringed. */
function Ring({ header, contact, depth }: { header: Header; contact: number | undefined; depth: number }) {
  const { left, right, front, back } = plugRoom(header);
  const at = contact === undefined ? undefined : contactAt(header, contact + 1);
  return (
    <g className={css.ring}>
      <rect x={left - 0.7} y={depth - back - 0.7} width={right - left + 1.4} height={back - front + 1.4} rx="1" />
      {at && <circle cx={at.x} cy={depth - at.y} r={header.pitch_mm * 0.62} />}
    </g>
  ); // prettier-ignore
}
