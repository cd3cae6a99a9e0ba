import type { DisplayLook, Finger } from '@jolly/bench';
import { Button } from '@mantine/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import css from './OwnDisplay.module.css';

const DOT = 3;
const ROWS = 64;
/** Of a display of pixels, in letters: how far an arrow takes the finger. */
const LETTERS = { across: 21, down: 8 };

/** The machine's own display, drawn from its memory, with its knob or with a finger on its layer. */
export function OwnDisplay({ touched }: { touched: boolean }) {
  const look = usePowered((now) => now.look?.display);
  return (
    <section className={css.display} aria-label="The machine's own display">
      <h2>Its display</h2>
      {touched ? <TouchedGlass look={look} /> : <KnobbedGlass look={look} />}
    </section>
  );
}

/** Turned and pressed: keys, mouse wheel, or arrows and Enter. */
function KnobbedGlass({ look }: { look: DisplayLook | undefined }) {
  const { turn, press } = useBench();
  const onKey = (key: string): boolean => {
    if (key === 'ArrowLeft' || key === 'ArrowUp') turn(-1);
    else if (key === 'ArrowRight' || key === 'ArrowDown') turn(1);
    else if (key === 'Enter' || key === ' ') press();
    else return false;
    return true;
  };
  return (
    <>
      {/* A knob is one thing that is turned and pressed; keys do both. */}
      <div
        className={css.glass}
        role="application"
        aria-label={look?.shows === 'text' ? look.rows.join(' / ') : 'Display of pixels. Arrows turn the knob, Enter presses it.'} // prettier-ignore
        tabIndex={0}
        onKeyDown={(event) => {
          if (onKey(event.key)) event.preventDefault();
        }}
        onWheel={(event) => turn(event.deltaY > 0 ? 1 : -1)}
      >
        <Shown look={look} />
      </div>
      <div className={css.knob}>
        <Button size="compact-sm" variant="default" aria-label="Turn the knob left" onClick={() => turn(-1)}>
          ◂ turn
        </Button>
        <Button size="compact-sm" variant="default" onClick={press}>
          Press the knob
        </Button>
        <Button size="compact-sm" variant="default" aria-label="Turn the knob right" onClick={() => turn(1)}>
          turn ▸
        </Button>
      </div>
    </>
  );
}

/** Touched with the mouse or a finger; by keys, arrows move a finger over the glass and Enter puts it down. */
function TouchedGlass({ look }: { look: DisplayLook | undefined }) {
  const { touch } = useBench();
  const [at, setAt] = useState({ row: 0, column: 0 });
  const [byKeys, setByKeys] = useState(false);
  const finger: Finger = { x: (at.column + 0.5) / LETTERS.across, y: (at.row + 0.5) / LETTERS.down };
  // A finger that leaves the page, or a station that is left, must not stay on the glass.
  useEffect(() => () => touch(undefined), [touch]);

  const onPointer = (event: PointerEvent<HTMLDivElement>): void => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    const share = (value: number) => Math.min(1, Math.max(0, value));
    event.currentTarget.setPointerCapture(event.pointerId);
    touch({ x: share((event.clientX - left) / width), y: share((event.clientY - top) / height) });
  };
  const onKey = (event: KeyboardEvent): void => {
    const way = WAYS[event.key];
    if (!way && event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    setByKeys(true);
    if (way)
      setAt(({ row, column }) => ({
        row: Math.min(LETTERS.down - 1, Math.max(0, row + way.down)),
        column: Math.min(LETTERS.across - 1, Math.max(0, column + way.across)),
      }));
    else if (!event.repeat) touch(finger);
  };
  return (
    <>
      <div
        className={css.glass}
        role="application"
        aria-label={`Display of pixels that is touched. Arrows move the finger, Enter puts it down. Row ${at.row + 1} of ${LETTERS.down}, letter ${at.column + 1} of ${LETTERS.across}.`}
        tabIndex={0}
        onKeyDown={onKey}
        onKeyUp={(event) => {
          if (event.key === 'Enter' || event.key === ' ') touch(undefined);
        }}
        onBlur={() => {
          setByKeys(false);
          touch(undefined);
        }}
      >
        <div
          className={css.layer}
          onPointerDown={onPointer}
          onPointerUp={() => touch(undefined)}
          onPointerCancel={() => touch(undefined)}
        >
          <Shown look={look} />
          {byKeys && (
            <span
              className={css.finger}
              style={{ left: `${finger.x * 100}%`, top: `${finger.y * 100}%` }}
              aria-hidden
            />
          )}
        </div>
      </div>
      <p className="soft">Touch it. A finger held for five seconds asks for the two marks anew.</p>
    </>
  );
}

const WAYS: Readonly<Record<string, { across: number; down: number }>> = {
  ArrowLeft: { across: -1, down: 0 },
  ArrowRight: { across: 1, down: 0 },
  ArrowUp: { across: 0, down: -1 },
  ArrowDown: { across: 0, down: 1 },
};

function Shown({ look }: { look: DisplayLook | undefined }) {
  if (look === undefined) return <p>It is dark.</p>;
  return look.shows === 'text' ? <pre>{look.rows.join('\n')}</pre> : <Pixels look={look} />;
}

function Pixels({ look }: { look: Extract<DisplayLook, { shows: 'pixel' }> }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, look.columns * DOT, ROWS * DOT);
    context.fillStyle = getComputedStyle(context.canvas).color;
    for (let page = 0; page < ROWS / 8; page += 1)
      for (let x = 0; x < look.columns; x += 1) {
        const bits = look.bytes[page * look.columns + x] ?? 0;
        for (let bit = 0; bit < 8; bit += 1)
          if ((bits >> bit) & 1) context.fillRect(x * DOT, (page * 8 + bit) * DOT, DOT - 0.5, DOT - 0.5);
      }
  }, [look]);
  return <canvas ref={canvas} width={look.columns * DOT} height={ROWS * DOT} aria-hidden />;
}
