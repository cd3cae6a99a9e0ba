import type { Heights } from '@jolly/core/plate/heights';
import { heightAt } from '@jolly/core/plate/mapAt';
import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import { heightColour } from './heightColour';
import { linesOfHeight } from './linesOfHeight';
import css from './Map.module.css';
import { MARGIN, type Place, sheetOf, WIDE } from './sheet';

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
  const drawn = useMemo(() => linesOfHeight(map), [map]);
  const sheet = useMemo(() => sheetOf(map), [map]);
  const { high } = sheet;
  const at = sheet.onSheet(place);
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const matrix = event.currentTarget.getScreenCTM()?.inverse();
    if (matrix) setPlace(sheet.onPlate(new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix)));
  };
  const key = (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    if (!by) return;
    event.preventDefault();
    setPlace(sheet.kept({ x: place.x + by[0] * 5, y: place.y + by[1] * 5 }));
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
            d={coordinates.flatMap((polygon) => polygon.map(sheet.ring)).join('')}
            fill={heightColour(share(value + drawn.step / 2))}
            className={css.line}
          />
        ))}
      </g>
      <Points map={map} />
      <path d={`M${at.x} 10V${high + 10}M${MARGIN} ${at.y}H${MARGIN + WIDE}`} className={css.hair} />
      <circle cx={at.x} cy={at.y} r="6" className={css.here} />
      <Corners map={map} />
      <Scale low={drawn.low} top={drawn.top} step={drawn.step} x={MARGIN + WIDE + 14} high={high} />
    </svg>
  );
}

/** Where the plate was touched. */
function Points({ map }: { map: Heights }) {
  const sheet = sheetOf(map);
  return map.ys.map((y) =>
    map.xs.map((x) => {
      const at = sheet.onSheet({ x, y });
      return <circle key={`${x} ${y}`} cx={at.x} cy={at.y} r="2" className={css.point} />;
    }),
  );
}

/** From where to where the map goes, in mm. */
function Corners({ map }: { map: Heights }) {
  const { x, y, high } = sheetOf(map);
  const texts = [
    { x: MARGIN, y: high + 26, text: `X ${x[0]}` },
    { x: MARGIN + WIDE, y: high + 26, text: `X ${x[1]} mm · front`, end: true },
    { x: MARGIN - 6, y: high + 8, text: y[0], end: true },
    { x: MARGIN - 6, y: 22, text: y[1], end: true },
  ];
  return texts.map(({ text, end, ...at }) => (
    <text key={text} {...at} className={css.figure} {...(end && { textAnchor: 'end' })}>
      {text}
    </text>
  ));
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
