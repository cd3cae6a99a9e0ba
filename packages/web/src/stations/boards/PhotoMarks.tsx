import type { BoardPhoto } from '@jolly/core/board/begunBoard';
import type { Point } from '@jolly/core/board/photoFit';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import css from './Boards.module.css';

const NAMES = ['Front left corner', 'Front right corner', 'Back right corner', 'Back left corner'];
const ARROWS: Readonly<Record<string, Point>> = { ArrowLeft: { x: -1, y: 0 }, ArrowRight: { x: 1, y: 0 }, ArrowUp: { x: 0, y: -1 }, ArrowDown: { x: 0, y: 1 } }; // prettier-ignore
const STEP = 0.002;
const LEAP = 0.02;
const inside = (share: number) => Math.min(1, Math.max(0, Math.round(share * 1e4) / 1e4));

/** The photo as it was taken, with its marks: four corners, and two points of known distance. */
export function PhotoMarks({
  url,
  photo,
  onPhoto,
}: {
  url: string;
  photo: BoardPhoto;
  onPhoto: (part: Partial<BoardPhoto>) => void;
}) {
  const picture = useRef<HTMLDivElement>(null);
  const shareOf = (event: PointerEvent): Point => {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return { x: inside((event.clientX - box.left) / box.width), y: inside((event.clientY - box.top) / box.height) }; // prettier-ignore
  };
  const { corners, distance } = photo;
  const moved = (points: readonly Point[], index: number, to: Point) =>
    points.map((point, at) => (at === index ? to : point));
  return (
    <div
      ref={picture}
      className={css.photo}
      data-pointing={corners.length < 4}
      onPointerDown={(event) => {
        if (corners.length < 4) onPhoto({ corners: [...corners, shareOf(event)] });
      }}
    >
      <img src={url} alt="The board as it was photographed" draggable={false} />
      {corners.length > 1 && (
        <svg viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true">
          <polygon points={corners.map(({ x, y }) => `${x},${y}`).join(' ')} />
        </svg>
      )}
      {corners.map((point, index) => (
        <Mark
          key={NAMES[index]}
          name={NAMES[index] ?? ''}
          at={point}
          shareOf={shareOf}
          onMove={(to) => onPhoto({ corners: moved(corners, index, to) })}
        />
      ))}
      {distance?.points.map((point, index) => (
        <Mark
          key={`distance ${index}`}
          name={`Point ${index + 1} of known distance`}
          at={point}
          round
          shareOf={shareOf}
          onMove={(to) => onPhoto({ distance: { ...distance, points: moved(distance.points, index, to) } })}
        />
      ))}
    </div>
  );
}

/** One mark: dragged, or moved by keys while it is chosen. It is kept where it is let go. */
function Mark({
  name,
  at,
  round = false,
  shareOf,
  onMove,
}: {
  name: string;
  at: Point;
  round?: boolean;
  shareOf: (event: PointerEvent) => Point;
  onMove: (to: Point) => void;
}) {
  const [held, setHeld] = useState<Point>();
  const shown = held ?? at;
  const onKey = (event: KeyboardEvent) => {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const by = event.shiftKey ? LEAP : STEP;
    onMove({ x: inside(at.x + way.x * by), y: inside(at.y + way.y * by) });
  };
  return (
    <button
      className={css.mark}
      data-round={round}
      style={{ left: `${shown.x * 100}%`, top: `${shown.y * 100}%` }}
      aria-label={`${name}: ${(at.x * 100).toFixed(1)} % from the left, ${(at.y * 100).toFixed(1)} % from the top`}
      onKeyDown={onKey}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(at);
      }}
      onPointerMove={(event) => held && setHeld(shareOf(event))}
      onPointerUp={() => {
        if (held) onMove(held);
        setHeld(undefined);
      }}
      onPointerCancel={() => setHeld(undefined)}
    />
  );
}
