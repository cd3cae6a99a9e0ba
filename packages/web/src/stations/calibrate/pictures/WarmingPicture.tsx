import type { HeatPoint } from '@jolly/core/bringup/picture';
import css from './Pictures.module.css';

const [WIDE, HIGH, LEFT, BASE] = [560, 240, 58, 206];

/** A temperature on its way to its target and over it; the earlier way behind. */
export function WarmingPicture({
  targetC,
  now,
  before,
}: {
  targetC: number;
  now: readonly HeatPoint[];
  before?: readonly HeatPoint[] | undefined;
}) {
  const all = [...now, ...(before ?? [])];
  const lastS = Math.max(30, ...all.map(({ t }) => t));
  const low = Math.min(targetC - 10, ...all.map(({ c }) => c));
  const high = Math.max(targetC + 6, ...all.map(({ c }) => c)) + 2;
  const x = (t: number) => LEFT + (t / lastS) * (WIDE - LEFT - 10);
  const y = (c: number) => BASE - ((c - low) / (high - low)) * (BASE - 14);
  const line = (points: readonly HeatPoint[]) =>
    points
      .map(({ t, c }, index) => `${index === 0 ? 'M' : 'L'}${x(t).toFixed(1)} ${y(c).toFixed(1)}`)
      .join('');
  const over = (points: readonly HeatPoint[]) => Math.max(0, ...points.map(({ c }) => c - targetC));
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className={css.picture} role="img" aria-label={`Temperature about ${targetC} °C`}>
      <path d={`M${LEFT} ${y(targetC)}H${WIDE - 10}`} className={css.target} />
      <text x={LEFT - 6} y={y(targetC) + 4} textAnchor="end" className={css.figure}>{`${targetC} °C`}</text>
      <text x={LEFT - 6} y={y(low) + 4} textAnchor="end" className={css.figure}>{`${low.toFixed(0)} °C`}</text>
      <path d={`M${LEFT} ${BASE}H${WIDE - 10}`} className={css.gridline} />
      {[0, 0.5, 1].map((share) => (
        <text key={share} x={x(lastS * share)} y={BASE + 16} textAnchor={share === 1 ? 'end' : share === 0 ? 'start' : 'middle'} className={css.figure}>{`${Math.round(lastS * share)} s`}</text>
      ))}
      {before && <path d={line(before)} className={css.earlier} />}
      <path d={line(now)} className={css.curve} />
      <text x={LEFT + 4} y={HIGH - 4} className={css.note}>
        {`${before ? `before: ${over(before).toFixed(1)} °C over; ` : ''}${before ? 'tuned' : 'so far'}: ${over(now).toFixed(1)} °C over`}
      </text>
    </svg>
  );
} // prettier-ignore
