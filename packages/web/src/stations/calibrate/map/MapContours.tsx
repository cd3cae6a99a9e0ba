import { heightAt } from '@jolly/core/plate/mapAt';
import type { Heights } from '@jolly/core/plate/heights';
import { contours } from 'd3-contour';
import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import { heightColour } from './heightColour';
import css from './Map.module.css';

/** Lines are drawn through so many heights a side, filled in between the points as the board does it. */
const FINE = 72;
const WIDE = 420;
const MARGIN = 34;

interface Place {
  x: number;
  y: number;
}

/** Steps of height that give about eight lines: 0.01, 0.02, 0.05, 0.1 … mm. */
function stepFor(range: number): number {
  const rough = Math.max(range, 0.01) / 8;
  const ten = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((by) => by * ten).find((step) => step >= rough) ?? rough;
}

/** Lines of equal height over the plate, front below; a place is read off with the pointer or the arrow keys. */
export default function MapContours({
  map,
  place,
  setPlace,
}: {
  map: Heights;
  place: Place;
  setPlace: (place: Place) => void;
}) {
  const [x0, x1] = [map.xs[0] ?? 0, map.xs.at(-1) ?? 1];
  const [y0, y1] = [map.ys[0] ?? 0, map.ys.at(-1) ?? 1];
  const high = Math.min(WIDE * 1.2, (WIDE * (y1 - y0)) / (x1 - x0));
  const drawn = useMemo(() => {
    const all = map.z.flat();
    const [low, top] = [Math.min(...all), Math.max(...all)];
    const step = stepFor(top - low);
    const values = Array.from({ length: FINE * FINE }, (_, index) => {
      const [column, row] = [index % FINE, Math.floor(index / FINE)];
      // Rows of the picture go down, those of the plate up.
      return heightAt(map, x0 + ((x1 - x0) * column) / (FINE - 1), y1 - ((y1 - y0) * row) / (FINE - 1));
    });
    const levels = Array.from({ length: Math.ceil((top - low) / step) + 2 }, (_, nth) => (Math.floor(low / step) + nth) * step); // prettier-ignore
    const lines = contours().size([FINE, FINE]).thresholds(levels)(values);
    return { lines, low, top, step };
  }, [map, x0, x1, y0, y1]);
  const toX = (column: number) => MARGIN + ((column - 0.5) / (FINE - 1)) * WIDE;
  const toY = (row: number) => 10 + ((row - 0.5) / (FINE - 1)) * high;
  const at = {
    x: MARGIN + ((place.x - x0) / (x1 - x0)) * WIDE,
    y: 10 + ((y1 - place.y) / (y1 - y0)) * high,
  };
  const clamp = (value: number, low: number, top: number) => Math.min(top, Math.max(low, value));
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const matrix = event.currentTarget.getScreenCTM()?.inverse();
    if (!matrix) return;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    setPlace({
      x: clamp(x0 + ((x - MARGIN) / WIDE) * (x1 - x0), x0, x1),
      y: clamp(y1 - ((y - 10) / high) * (y1 - y0), y0, y1),
    });
  };
  const key = (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    if (!by) return;
    event.preventDefault();
    setPlace({ x: clamp(place.x + by[0] * 5, x0, x1), y: clamp(place.y + by[1] * 5, y0, y1) });
  };
  const share = (value: number) => (value - drawn.low) / Math.max(1e-9, drawn.top - drawn.low);
  return (
    <svg
      viewBox={`0 0 ${WIDE + MARGIN + 90} ${high + 40}`}
      className={css.contours}
      role="application"
      aria-label={`Contours, ${drawn.step.toFixed(3)} mm apart. At X ${place.x.toFixed(0)} Y ${place.y.toFixed(0)}: ${heightAt(map, place.x, place.y).toFixed(3)} mm. Arrow keys move the place.`}
      tabIndex={0}
      onPointerMove={point}
      onPointerDown={point}
      onKeyDown={key}
    >
      <clipPath id="plate-of-map">
        <rect x={MARGIN} y="10" width={WIDE} height={high} />
      </clipPath>
      <rect x={MARGIN} y="10" width={WIDE} height={high} fill={heightColour(0)} />
      <g clipPath="url(#plate-of-map)">
        {drawn.lines.map(({ value, coordinates }) => (
          <path
            key={value}
            d={coordinates
              .flatMap((polygon) =>
                polygon.map(
                  (ring) =>
                    `${ring.map(([x = 0, y = 0], index) => `${index === 0 ? 'M' : 'L'}${toX(x).toFixed(1)} ${toY(y).toFixed(1)}`).join('')}Z`,
                ),
              )
              .join('')}
            fill={heightColour(share(value + drawn.step / 2))}
            className={css.line}
          />
        ))}
      </g>
      {map.ys.map((y) =>
        map.xs.map((x) => (
          <circle
            key={`${x} ${y}`}
            cx={MARGIN + ((x - x0) / (x1 - x0)) * WIDE}
            cy={10 + ((y1 - y) / (y1 - y0)) * high}
            r="2"
            className={css.point}
          />
        )),
      )}
      <path d={`M${at.x} 10V${high + 10}M${MARGIN} ${at.y}H${MARGIN + WIDE}`} className={css.hair} />
      <circle cx={at.x} cy={at.y} r="6" className={css.here} />
      <text x={MARGIN} y={high + 26} className={css.figure}>{`X ${x0}`}</text>
      <text
        x={MARGIN + WIDE}
        y={high + 26}
        textAnchor="end"
        className={css.figure}
      >{`X ${x1} mm · front`}</text>
      <text x={MARGIN - 6} y={high + 8} textAnchor="end" className={css.figure}>
        {y0}
      </text>
      <text x={MARGIN - 6} y="22" textAnchor="end" className={css.figure}>
        {y1}
      </text>
      <Scale low={drawn.low} top={drawn.top} step={drawn.step} x={MARGIN + WIDE + 14} high={high} />
    </svg>
  );
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The heights behind the tones, in mm. */
function Scale({
  low,
  top,
  step,
  x,
  high,
}: {
  low: number;
  top: number;
  step: number;
  x: number;
  high: number;
}) {
  const steps = Math.max(1, Math.round((top - low) / step));
  const each = high / steps;
  return (
    <g>
      {Array.from({ length: steps }, (_, nth) => (
        <g key={nth}>
          <rect
            x={x}
            y={10 + high - (nth + 1) * each}
            width="14"
            height={each}
            fill={heightColour((nth + 0.5) / steps)}
            className={css.line}
          />
          {(steps < 10 || nth % 2 === 0) && (
            <text x={x + 19} y={14 + high - (nth + 0.5) * each} className={css.figure}>
              {(low + (nth + 0.5) * ((top - low) / steps)).toFixed(2).replace('-', '−')}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
