import type { PlantView } from '@jolly/bench';
import type { MapPoint } from '@jolly/core/bringup/boardReading';
import { type Facts, partsOf } from '@jolly/core/machine/facts';
import { probeAt } from '@jolly/core/settings/probeAt';
import { Eyes } from './Eyes';
import { FRONT_WIDE, FrontView } from './FrontView';
import css from './MachineView.module.css';

type Span = [number, number];

/** What your eyes see: the machine from above and from the front, what turns and what is out. Figures come from the board. */
export function MachineView({
  facts,
  view,
  points,
}: {
  facts: Facts;
  view: PlantView | undefined;
  /** Heights the board told while its map was taken. */
  points: readonly MapPoint[];
}) {
  const { travel_mm: travel, bed_mm: bed } = facts.machine.frame;
  const mount = partsOf(facts, 'probe')[0] && probeAt(facts);
  const hasPin = facts.parts.some(({ type }) => type.kind === 'probe' && type.sense === 'pin');
  const room = 20;
  const up = (y: number) => -y;
  const all = { x: widest(travel.x, bed.x), y: widest(travel.y, bed.y) };
  const at = view?.position;
  const height = all.y[1] - all.y[0];
  const front = all.x[1] + room + 8;
  return (
    <section className={css.machine} aria-label="Machine on the bench">
      <svg
        viewBox={`${all.x[0] - room} ${up(all.y[1]) - room} ${all.x[1] - all.x[0] + 2 * room + FRONT_WIDE + 16} ${height + 2 * room}`}
        role="img"
        aria-label={
          at
            ? `Nozzle at X ${at.x.toFixed(1)}, Y ${at.y.toFixed(1)}, Z ${at.z.toFixed(1)} mm`
            : 'Machine, power off'
        }
      >
        <rect
          className={css.travel}
          x={travel.x[0]}
          y={up(travel.y[1])}
          width={travel.x[1] - travel.x[0]}
          height={travel.y[1] - travel.y[0]}
        />
        <rect
          className={css.bed}
          data-hot={(view?.temperatureC.bed ?? 0) > 45}
          x={bed.x[0]}
          y={up(bed.y[1])}
          width={bed.x[1] - bed.x[0]}
          height={bed.y[1] - bed.y[0]}
          rx="5"
        />
        <Heights points={points} />
        {at && (
          <g>
            <path className={css.rail} d={`M${all.x[0] - 10} ${up(at.y)}H${all.x[1] + 10}`} />
            <g transform={`translate(${at.x} ${up(at.y)})`}>
              <rect className={css.head} x="-13" y="-11" width="26" height="22" rx="3" />
              <circle className={css.nozzle} r="4" data-hot={(view.temperatureC.hotend ?? 0) > 50} />
              {mount && view.probe && (
                <circle
                  className={css.probe}
                  cx={mount.x}
                  cy={-mount.y}
                  r="4.5"
                  data-out={view.probe.deployed}
                  data-met={view.probe.triggered}
                />
              )}
            </g>
          </g>
        )}
        <FrontView
          facts={facts}
          view={view}
          probeX={hasPin ? mount?.x : undefined}
          at={{ left: front, top: up(all.y[1]), height }}
        />
      </svg>
      {view && <Eyes facts={facts} view={view} />}
      {view && <Hits view={view} />}
    </section>
  );
}

/** So far above or below the middle height a point is drawn in full colour, mm. */
const FULL_MM = 0.2;

/** The heights of the map as the board told them: brass above, verdigris below, in thousandths of a millimetre. */
function Heights({ points }: { points: readonly MapPoint[] }) {
  return (
    <g aria-hidden>
      {points.map(({ x, y, height }) => (
        <g key={`${x} ${y}`} transform={`translate(${x} ${-y})`}>
          <circle
            r="11"
            className={height >= 0 ? css.above : css.below}
            fillOpacity={0.2 + 0.8 * Math.min(1, Math.abs(height) / FULL_MM)}
          />
          <text className={css.height} y="3">
            {Math.round(height * 1000)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** What the plant says was hit. */
function Hits({ view }: { view: PlantView }) {
  return (
    <>
      {Object.values(view.blocked).some((steps) => steps > 0) && (
        <p role="alert" className={css.crash}>
          The frame was hit:{' '}
          {Object.entries(view.blocked)
            .filter(([, steps]) => steps > 0)
            .map(([axis, steps]) => `${axis.toUpperCase()} lost ${steps} steps`)
            .join(', ')}
          .
        </p>
      )}
      {view.nozzleInPlateMm > 0.3 && (
        <p role="alert" className={css.crash}>
          The nozzle was pushed {view.nozzleInPlateMm.toFixed(1)} mm into the plate.
        </p>
      )}
    </>
  );
}

const widest = (a: Span, b: Span): Span => [Math.min(a[0], b[0]), Math.max(a[1], b[1])];
