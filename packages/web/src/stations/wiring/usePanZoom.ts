import { type PointerEvent, useCallback, useEffect, useRef, useState, type WheelEvent } from 'react';

export interface View {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The part of a drawing that is shown: wheel and keys zoom, dragging the ground moves. */
export function usePanZoom(whole: View) {
  const [view, setView] = useState(whole);
  const svg = useRef<SVGSVGElement>(null);
  const grip = useRef<{ x: number; y: number; view: View }>(undefined);
  const { x, y, width, height } = whole;
  useEffect(() => setView({ x, y, width, height }), [x, y, width, height]);

  const zoom = useCallback(
    (factor: number, at?: { x: number; y: number }) =>
      setView((old) => {
        const scale = Math.min(1, Math.max(0.15, (old.width * factor) / whole.width));
        const next = { width: whole.width * scale, height: whole.height * scale };
        const centre = at ?? { x: old.x + old.width / 2, y: old.y + old.height / 2 };
        const share = { x: (centre.x - old.x) / old.width, y: (centre.y - old.y) / old.height };
        return inside(
          { ...next, x: centre.x - share.x * next.width, y: centre.y - share.y * next.height },
          whole,
        );
      }),
    [whole],
  );
  /** A place on the screen in the drawing's own millimetres. */
  const toDrawing = useCallback((clientX: number, clientY: number) => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    if (!matrix) return { x: 0, y: 0 };
    const { x: px, y: py } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { x: px, y: py };
  }, []);
  return {
    svg,
    viewBox: `${view.x} ${view.y} ${view.width} ${view.height}`,
    zoomed: view.width < whole.width - 0.01,
    zoom,
    reset: () => setView(whole),
    toDrawing,
    ground: {
      onWheel: (event: WheelEvent) =>
        zoom(event.deltaY > 0 ? 1.15 : 1 / 1.15, toDrawing(event.clientX, event.clientY)),
      onPointerDown: (event: PointerEvent) => {
        if (event.target instanceof Element && event.target.closest('[data-part]')) return;
        grip.current = { x: event.clientX, y: event.clientY, view };
      },
      onPointerMove: (event: PointerEvent) => {
        const from = grip.current;
        const box = svg.current?.getBoundingClientRect();
        if (!from || !box) return;
        const scale = from.view.width / box.width;
        setView(
          inside(
            {
              ...from.view,
              x: from.view.x - (event.clientX - from.x) * scale,
              y: from.view.y - (event.clientY - from.y) * scale,
            },
            whole,
          ),
        );
      },
      onPointerUp: () => (grip.current = undefined),
      onPointerLeave: () => (grip.current = undefined),
    },
  };
}

/** A view does not leave the drawing. */
function inside(view: View, whole: View): View {
  const clamp = (value: number, low: number, high: number) =>
    Math.min(Math.max(value, low), Math.max(low, high));
  return {
    ...view,
    x: clamp(view.x, whole.x, whole.x + whole.width - view.width),
    y: clamp(view.y, whole.y, whole.y + whole.height - view.height),
  };
}
