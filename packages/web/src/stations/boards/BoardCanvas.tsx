import { type BoardDraft, looksOf } from '@jolly/core/board/boardDraft';
import type { Header } from '@jolly/core/board/board';
import { contactAt, plugRoom } from '@jolly/core/board/plugRoom';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { BoardShape } from '../../ui/BoardShape';
import { type At, type CanvasActs, type Chosen, keyed, STEP, tenth } from './canvasKeys';
import css from './Boards.module.css';

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
  /** The next click is a point, not a choice. */
  pointing: ((at: At) => void) | undefined;
} & CanvasActs) {
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
    if (keyed(event, looks.headers, chosen, { onChoose, onHeader, onCopy, onNet, onNext }))
      event.preventDefault();
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
