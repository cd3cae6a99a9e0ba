import { figureInWords } from '@jolly/core/text/figureInWords';
import type { StoredCalibration } from '@jolly/contract/endpoints/calibrations';
import { dayOf } from '../../ui/when';
import css from './FigureCurves.module.css';

const [WIDE, HIGH, LEFT] = [300, 110, 62];

/** Values that were measured more than once, over time: an offset that wanders, a spread that grows. */
export function FigureCurves({ past }: { past: readonly StoredCalibration[] }) {
  const series = new Map<
    string,
    { label: string; unit: string; points: { at: string; value: number; poor: boolean }[] }
  >();
  for (const { at, figures, outcome } of [...past].reverse())
    for (const { id, label, value, unit } of figures) {
      const known = series.get(id) ?? { label, unit, points: [] };
      known.points.push({ at, value, poor: outcome === 'poor' });
      series.set(id, known);
    }
  const drawn = [...series.entries()].filter(([, { points }]) => points.length > 0);
  if (drawn.length === 0) return null;
  return (
    <section className={css.curves} aria-label="Measured before">
      <h3>Over time</h3>
      <div>
        {drawn.map(([id, { label, unit, points }]) => (
          <Curve key={id} label={label} unit={unit} points={points} />
        ))}
      </div>
    </section>
  );
}

function Curve({
  label,
  unit,
  points,
}: {
  label: string;
  unit: string;
  points: readonly { at: string; value: number; poor: boolean }[];
}) {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return null;
  const times = points.map(({ at }) => Date.parse(at));
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const values = points.map(({ value }) => value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(high - low, Math.abs(high) * 0.002, 1e-6);
  const x = (time: number) =>
    to === from ? (LEFT + WIDE) / 2 : LEFT + 8 + ((time - from) / (to - from)) * (WIDE - LEFT - 22);
  const y = (value: number) =>
    high === low ? (HIGH - 20) / 2 : HIGH - 26 - ((value - low + room * 0.12) / (room * 1.24)) * (HIGH - 46);
  return (
    <figure>
      <figcaption>
        {label}
        <b className="figures">{` ${figureInWords(last.value)} ${unit}`}</b>
        {points.length > 1 && <small>{` was ${figureInWords(first.value)} on ${dayOf(first.at)}`}</small>}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        role="img"
        aria-label={`${label}: ${points.map(({ at, value }) => `${dayOf(at)} ${figureInWords(value)} ${unit}`).join(', ')}`}
      >
        <path d={`M${LEFT} ${y(low)}H${WIDE - 4}M${LEFT} ${y(high)}H${WIDE - 4}`} className={css.grid} />
        <text x={LEFT - 5} y={y(high) + 4} textAnchor="end" className={css.figure}>
          {figureInWords(high)}
        </text>
        {high !== low && (
          <text x={LEFT - 5} y={y(low) + 4} textAnchor="end" className={css.figure}>
            {figureInWords(low)}
          </text>
        )}
        <path
          d={points
            .map(
              ({ value }, index) =>
                `${index === 0 ? 'M' : 'L'}${x(times[index] ?? from).toFixed(1)} ${y(value).toFixed(1)}`,
            )
            .join('')}
          className={css.line}
        />
        {points.map(({ at, value, poor }, index) => (
          <circle
            key={`${at} ${index}`}
            cx={x(times[index] ?? from)}
            cy={y(value)}
            r="4"
            className={poor ? css.poor : css.point}
          />
        ))}
        <text x={LEFT} y={HIGH - 6} className={css.figure}>
          {dayOf(first.at)}
        </text>
        {points.length > 1 && (
          <text x={WIDE - 4} y={HIGH - 6} textAnchor="end" className={css.figure}>
            {dayOf(last.at)}
          </text>
        )}
      </svg>
    </figure>
  );
}
