import type { Heights } from '@jolly/core/plate/heights';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { drawSurface } from './drawSurface';
import css from './Map.module.css';

const [WIDE, HIGH] = [560, 360];
const TURN_KEYS: Readonly<Record<string, number>> = { ArrowLeft: -0.12, ArrowRight: 0.12 };

/** The plate as a surface, its heights much enlarged, turned by dragging or with the arrow keys. */
export default function MapSurface({ map }: { map: Heights }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [turn, setTurn] = useState(0.6);
  const from = useRef<{ x: number; turn: number }>(undefined);
  useEffect(() => {
    const sheet = canvas.current;
    const pen = sheet?.getContext('2d');
    if (!sheet || !pen) return;
    const frame = requestAnimationFrame(() => {
      const { color } = getComputedStyle(sheet);
      pen.setTransform(2, 0, 0, 2, 0, 0);
      drawSurface(pen, map, { turn, wide: WIDE, high: HIGH, ink: color });
    });
    return () => cancelAnimationFrame(frame);
  }, [map, turn]);
  const drag = (event: PointerEvent) => {
    if (from.current) setTurn(from.current.turn + (event.clientX - from.current.x) / 140);
  };
  const key = (event: KeyboardEvent) => {
    const by = TURN_KEYS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    setTurn((now) => now + by);
  };
  const all = map.z.flat();
  return (
    <canvas
      ref={canvas}
      width={WIDE * 2}
      height={HIGH * 2}
      className={css.surface}
      role="application"
      tabIndex={0}
      aria-label={`Surface of ${map.xs.length} × ${map.ys.length} points, ${Math.min(...all).toFixed(2)} to ${Math.max(...all).toFixed(2)} mm. Drag it, or use the left and right arrow keys to turn it.`}
      onPointerDown={(event) => {
        from.current = { x: event.clientX, turn };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => (from.current = undefined)}
      onPointerCancel={() => (from.current = undefined)}
      onKeyDown={key}
    />
  );
}
