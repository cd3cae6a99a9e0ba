import { numberOf, type Reach, reachOf, type Setting, type Settings, spanOf } from '@jolly/core';
import css from './BedPlan.module.css';

type Span = [number, number];

/** The plate from above: travel, probe reach, the Z home spot and where the nozzle stands for it. */
export function BedPlan({ settings }: { settings: Settings }) {
  const travel = { x: spanOf(settings, 'travel.x'), y: spanOf(settings, 'travel.y') };
  const bed = { x: spanOf(settings, 'bed.x'), y: spanOf(settings, 'bed.y') };
  const byProbe = settings.get('home.z.with')?.value === 'probe';
  const reach = settings.get('probe.kind')?.value === 'none' ? null : reachOf(settings);
  const spot = { x: numberOf(settings, 'home.spot.x'), y: numberOf(settings, 'home.spot.y') };
  const nozzle = {
    x: spot.x - numberOf(settings, 'probe.offset.x'),
    y: spot.y - numberOf(settings, 'probe.offset.y'),
  };
  const corner = { x: settings.get('home.x.side'), y: settings.get('home.y.side') };
  const all = { x: widest(travel.x, bed.x), y: widest(travel.y, bed.y) };
  const room = 26;
  // Y grows to the back of the machine, which is up on the plan.
  const up = (y: number) => -y;
  const rect = ({ x, y }: { x: Span; y: Span }) => ({
    x: x[0],
    y: up(y[1]),
    width: x[1] - x[0],
    height: y[1] - y[0],
  });
  const view = `${all.x[0] - room} ${up(all.y[1]) - room} ${all.x[1] - all.x[0] + 2 * room} ${all.y[1] - all.y[0] + 2 * room}`;
  return (
    <figure className={css.plan}>
      <svg viewBox={view} role="img" aria-label={planInWords(travel, bed, reach, byProbe ? spot : undefined)}>
        <defs>
          <pattern id="plate-grid" width="10" height="10" patternUnits="userSpaceOnUse">
            <path d="M10 0H0V10" className={css.grid} />
          </pattern>
          <pattern
            id="reach-hatch"
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V7" className={css.hatch} />
          </pattern>
        </defs>
        <rect {...rect(bed)} className={css.bed} rx="4" />
        <rect {...rect(bed)} fill="url(#plate-grid)" rx="4" />
        {reach && <rect {...rect(reach)} fill="url(#reach-hatch)" className={css.reach} />}
        <rect {...rect(travel)} className={css.travel} />
        <path className={css.corner} d={cornerPath(travel, corner.x, corner.y, up)} />
        {byProbe && (
          <g>
            <path className={css.offset} d={`M${nozzle.x} ${up(nozzle.y)}L${spot.x} ${up(spot.y)}`} />
            <circle className={css.nozzle} cx={nozzle.x} cy={up(nozzle.y)} r="5" />
            <path className={css.spot} d={`M${spot.x - 7} ${up(spot.y)}h14M${spot.x} ${up(spot.y) - 7}v14`} />
          </g>
        )}
        <text x={(bed.x[0] + bed.x[1]) / 2} y={up(bed.y[0]) + 18} className={css.size}>
          {bed.x[1] - bed.x[0]} mm
        </text>
        <text
          className={css.size}
          transform={`translate(${bed.x[0] - 12} ${up((bed.y[0] + bed.y[1]) / 2)}) rotate(-90)`}
        >
          {bed.y[1] - bed.y[0]} mm
        </text>
      </svg>
      <figcaption>
        <ul className={css.legend}>
          <li data-kind="bed">plate</li>
          <li data-kind="travel">nozzle travel</li>
          {reach && <li data-kind="reach">probe reach, {Math.round(reach.share * 100)} %</li>}
          {byProbe && <li data-kind="spot">probe at Z home</li>}
          {byProbe && <li data-kind="nozzle">nozzle then</li>}
          <li data-kind="corner">homing corner</li>
        </ul>
      </figcaption>
    </figure>
  );
}

const widest = (a: Span, b: Span): Span => [Math.min(a[0], b[0]), Math.max(a[1], b[1])];

function cornerPath(
  travel: { x: Span; y: Span },
  sideX: Setting | undefined,
  sideY: Setting | undefined,
  up: (y: number) => number,
): string {
  const x = travel.x[sideX?.value === 'max' ? 1 : 0];
  const y = up(travel.y[sideY?.value === 'max' ? 1 : 0]);
  const inX = sideX?.value === 'max' ? -22 : 22;
  const inY = sideY?.value === 'max' ? 22 : -22;
  return `M${x + inX} ${y}H${x}V${y + inY}`;
}

function planInWords(
  travel: { x: Span; y: Span },
  bed: { x: Span; y: Span },
  reach: Reach | null,
  spot: { x: number; y: number } | undefined,
): string {
  const span = ([low, high]: Span) => `${low} to ${high} mm`;
  return [
    `Plate from above: X ${span(bed.x)}, Y ${span(bed.y)}.`,
    `Nozzle travel X ${span(travel.x)}, Y ${span(travel.y)}.`,
    reach ? `The probe reaches X ${span(reach.x)}, Y ${span(reach.y)}.` : '',
    spot ? `Z is homed with the probe at X ${spot.x}, Y ${spot.y} mm.` : '',
  ].join(' ');
}
