import type { Machine } from '@jolly/core/machine/machine';
import type { Point } from '@jolly/core/probe/mapGrid';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import css from './BedPlan.module.css';
import type { Handle } from './planHandles';
import { type Area, type PlanShape, type Span, without } from './planShape';

const ROOM = 22;
const STEP_MM = 1;
const BIG_STEP_MM = 10;
const ARROWS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: 1 },
  ArrowDown: { x: 0, y: -1 },
};
const up = (y: number) => -y;
const rect = ({ x, y }: Area) => ({ x: x[0], y: up(y[1]), width: x[1] - x[0], height: y[1] - y[0] });

const MARKS: Record<Handle['shape'], string> = {
  spot: 'M-7 0H7M0 -7V7',
  corner: 'M-5 -5H5V5H-5Z',
  travel: 'M0 -6L6 0L0 6L-6 0Z',
  clip: 'M-4 -4L4 4M4 -4L-4 4',
};

/** The machine from above, drawn to scale, with handles to take hold of; a run of homing lies over it. */
export function PlanDrawing({
  machine,
  shape,
  handles = [],
  held,
  onMove = () => undefined,
  onDrop = () => undefined,
  onLeave = () => undefined,
  trail = [],
  nozzle,
}: {
  machine: Machine;
  shape: PlanShape;
  /** Without any, the plan is only to look at. */
  handles?: Handle[];
  /** Where the handle that is held stands now. */
  held?: { id: string; to: Point } | undefined;
  onMove?: (handle: Handle, to: Point) => void;
  onDrop?: (handle: Handle, to: Point) => void;
  /** A handle was held and is put nowhere. */
  onLeave?: () => void;
  trail?: Point[];
  nozzle?: Point | undefined;
}) {
  const { travel, bed, probe, reach, map } = shape;
  const svg = useRef<SVGSVGElement>(null);
  const box = around([travel, bed, ...(probe ? [probe] : [])]);
  const view = `${box.x[0] - ROOM} ${up(box.y[1]) - ROOM} ${box.x[1] - box.x[0] + 2 * ROOM} ${box.y[1] - box.y[0] + 2 * ROOM}`;
  const placeOf = (event: PointerEvent): Point => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x, y: up(y) };
  };
  return (
    <svg
      ref={svg}
      viewBox={view}
      className={css.large}
      role={handles.length > 0 ? 'group' : 'img'}
      aria-label={planInWords(shape)}
    >
      <Patterns />
      <rect {...rect(bed)} className={css.bed} rx="4" />
      <rect {...rect(bed)} fill="url(#plan-grid)" rx="4" />
      {probe && <path d={without(probe, bed)} fillRule="evenodd" fill="url(#plan-crash)" />}
      <path d={without(travel, bed)} fillRule="evenodd" fill="url(#plan-crash)" />
      {probe && <rect {...rect(probe)} className={css.probeArea} />}
      {reach && <rect {...rect(reach)} className={css.reachArea} />}
      <rect {...rect(travel)} className={css.travel} />
      <Corner shape={shape} />
      {(machine.frame.clips_mm ?? []).map((clip, index) => (
        <rect key={index} {...rect(clip)} className={css.clip} />
      ))}
      {map && <MapPoints points={map.points} />}
      {shape.byProbe && <HomingSpot shape={shape} marked={handles.length === 0} />}
      {trail.length > 1 && (
        <polyline className={css.trail} points={trail.map(({ x, y }) => `${x},${up(y)}`).join(' ')} />
      )}
      {nozzle && <circle className={css.running} cx={nozzle.x} cy={up(nozzle.y)} r="6" />}
      {handles.map((handle) => (
        <HandleMark
          key={handle.id}
          handle={handle}
          held={held?.id === handle.id ? held.to : undefined}
          placeOf={placeOf}
          onMove={(to) => onMove(handle, to)}
          onDrop={(to) => onDrop(handle, to)}
          onLeave={onLeave}
        />
      ))}
      <Sizes bed={bed} box={box} />
    </svg>
  );
}

function Patterns() {
  return (
    <defs>
      <pattern id="plan-grid" width="10" height="10" patternUnits="userSpaceOnUse">
        <path d="M10 0H0V10" className={css.grid} />
      </pattern>
      <pattern
        id="plan-crash"
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"
      >
        <path d="M0 0V6" className={css.crashLine} />
      </pattern>
    </defs>
  );
}

/** Where the nozzle stands while the probe touches the home spot; the spot itself where it is no handle. */
function HomingSpot({ shape: { nozzleThen, spot }, marked }: { shape: PlanShape; marked: boolean }) {
  return (
    <g>
      <path className={css.offset} d={`M${nozzleThen.x} ${up(nozzleThen.y)}L${spot.x} ${up(spot.y)}`} />
      <circle className={css.nozzle} cx={nozzleThen.x} cy={up(nozzleThen.y)} r="4.5" />
      {marked && (
        <path className={css.spot} transform={`translate(${spot.x} ${up(spot.y)})`} d={MARKS.spot} />
      )}
    </g>
  );
}

function Sizes({ bed, box }: { bed: Area; box: Area }) {
  return (
    <>
      <text x={(bed.x[0] + bed.x[1]) / 2} y={up(box.y[0]) + 15} className={css.size}>
        {bed.x[1] - bed.x[0]} mm
      </text>
      <text
        className={css.size}
        transform={`translate(${box.x[0] - 9} ${up((bed.y[0] + bed.y[1]) / 2)}) rotate(-90)`}
      >
        {bed.y[1] - bed.y[0]} mm
      </text>
    </>
  );
}

/** A thing to take hold of, with the pointer or with arrow keys and enter. */
function HandleMark({
  handle,
  held,
  placeOf,
  onMove,
  onDrop,
  onLeave,
}: {
  handle: Handle;
  /** Where it stands now, while it is held. */
  held: Point | undefined;
  placeOf: (event: PointerEvent) => Point;
  onMove: (to: Point) => void;
  onDrop: (to: Point) => void;
  onLeave: () => void;
}) {
  const at = held ?? handle.at;
  const keys = (event: KeyboardEvent) => {
    const way = ARROWS[event.key];
    if (way) {
      event.preventDefault();
      const by = event.shiftKey ? BIG_STEP_MM : STEP_MM;
      onMove({ x: at.x + way.x * by, y: at.y + way.y * by });
    } else if (event.key === 'Enter' && held) {
      event.preventDefault();
      event.stopPropagation();
      onDrop(held);
    }
  };
  return (
    <g
      className={css.handle}
      data-shape={handle.shape}
      transform={`translate(${at.x} ${up(at.y)})`}
      role="button"
      tabIndex={0}
      aria-label={`${handle.label}: X ${Math.round(at.x * 10) / 10}, Y ${Math.round(at.y * 10) / 10} mm. Arrow keys move it, enter puts it there`}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        event.currentTarget.focus();
      }}
      onPointerMove={(event) =>
        event.currentTarget.hasPointerCapture(event.pointerId) && onMove(placeOf(event))
      }
      onPointerUp={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        event.currentTarget.releasePointerCapture(event.pointerId);
        if (held) onDrop(placeOf(event));
      }}
      onPointerCancel={onLeave}
      onKeyDown={keys}
    >
      <circle r="10" className={css.grip} />
      <path d={MARKS[handle.shape]} />
    </g>
  );
}

function MapPoints({ points }: { points: Point[] }) {
  return (
    <g>
      <polyline className={css.way} points={points.map(({ x, y }) => `${x},${up(y)}`).join(' ')} />
      {points.map(({ x, y }, index) => (
        <g key={index}>
          <circle cx={x} cy={up(y)} r="2.6" className={css.point} />
          {(index === 0 || index === points.length - 1) && (
            <text x={x} y={up(y) + 11} className={css.order}>
              {index + 1}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

function Corner({ shape: { travel, corner } }: { shape: PlanShape }) {
  const x = travel.x[corner.x === 'max' ? 1 : 0];
  const y = up(travel.y[corner.y === 'max' ? 1 : 0]);
  return (
    <path
      className={css.corner}
      d={`M${x + (corner.x === 'max' ? -22 : 22)} ${y}H${x}V${y + (corner.y === 'max' ? 22 : -22)}`}
    />
  );
}

function around(areas: Area[]): Area {
  const span = (axis: 'x' | 'y'): Span => [
    Math.min(...areas.map((area) => area[axis][0])),
    Math.max(...areas.map((area) => area[axis][1])),
  ];
  return { x: span('x'), y: span('y') };
}

function planInWords({ travel, bed, reach, byProbe, spot }: PlanShape): string {
  const span = ([low, high]: Span) => `${low} to ${high} mm`;
  return [
    `Plate from above: X ${span(bed.x)}, Y ${span(bed.y)}.`,
    `Nozzle travel X ${span(travel.x)}, Y ${span(travel.y)}.`,
    reach ? `The probe reaches X ${span(reach.x)}, Y ${span(reach.y)}.` : '',
    byProbe ? `Z is homed with the probe at X ${spot.x}, Y ${spot.y} mm.` : '',
  ].join(' ');
}
