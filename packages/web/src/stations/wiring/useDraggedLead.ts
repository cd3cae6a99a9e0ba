import { type PointerEvent, useRef, useState } from 'react';
import type { BenchLead } from './benchLead';
import { curve, type Point } from './leadLines';

/** A lead that is dragged by its tag: its loose end follows the pointer, and is let go over a place of the new board. */
export function useDraggedLead({
  toDrawing,
  onTaken,
  onDropped,
}: {
  toDrawing: (clientX: number, clientY: number) => Point;
  onTaken: (id: string) => void;
  /** Over which place; empty where there is none. */
  onDropped: (lead: BenchLead, place: string) => void;
}) {
  const [dragged, setDragged] = useState<string>();
  const line = useRef<SVGPathElement>(null);
  const grip = useRef<{ from: Point; moved: boolean }>(undefined);
  const begin = (event: PointerEvent<SVGGElement>, lead: BenchLead, from: Point) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    grip.current = { from, moved: false };
    onTaken(lead.part.id);
    setDragged(lead.part.id);
  };
  // The loose end follows the pointer without a render: sixty leads must not be drawn anew for each move.
  const move = (event: PointerEvent) => {
    const held = grip.current;
    if (!held) return;
    held.moved = true;
    line.current?.setAttribute('d', curve(held.from, toDrawing(event.clientX, event.clientY)));
  };
  /** Let go without a place: a second finger began to zoom. */
  const cancel = () => {
    grip.current = undefined;
    setDragged(undefined);
    line.current?.setAttribute('d', '');
  };
  const drop = (event: PointerEvent, lead: BenchLead) => {
    const held = grip.current;
    cancel();
    if (!held?.moved) return;
    const under = document.elementsFromPoint(event.clientX, event.clientY);
    const hit = under.map((element) => element.closest('[data-new] [data-place]')).find((element) => element);
    onDropped(lead, hit?.getAttribute('data-place') ?? '');
  };
  return { dragged, line, holds: () => grip.current !== undefined, begin, move, drop, cancel };
}
