import css from './Pictures.module.css';

const [WIDE, HIGH, LEFT] = [560, 190, 66];

/** Readings one after another against the band they may lie in. */
export function ReadingsPicture({
  readings,
  limitMm,
  of = readings.length,
}: {
  readings: readonly number[];
  limitMm: number;
  of?: number | undefined;
}) {
  const middle = readings.length > 0 ? (Math.min(...readings) + Math.max(...readings)) / 2 : 0;
  const most = Math.max(limitMm * 1.6, ...readings.map((one) => Math.abs(one - middle) * 1.2));
  const y = (value: number) => HIGH / 2 - ((value - middle) / most) * (HIGH / 2 - 14);
  const x = (index: number) => LEFT + 16 + (index * (WIDE - LEFT - 34)) / Math.max(1, of - 1);
  const mean = readings.reduce((sum, one) => sum + one, 0) / Math.max(1, readings.length);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className={css.picture} role="img" aria-label={`${readings.length} of ${of} readings`}>
      <rect x={LEFT} width={WIDE - LEFT - 6} y={y(middle + limitMm)} height={y(middle - limitMm) - y(middle + limitMm)} className={css.band} />
      {[limitMm, 0, -limitMm].map((off) => (
        <g key={off}>
          <path d={`M${LEFT} ${y(middle + off)}H${WIDE - 6}`} className={css.gridline} />
          <text x={LEFT - 8} y={y(middle + off) + 4} textAnchor="end" className={css.figure}>
            {off === 0 ? 'middle' : `${off > 0 ? '+' : '−'}${limitMm}`}
          </text>
        </g>
      ))}
      {readings.length > 1 && <path d={`M${LEFT} ${y(mean)}H${WIDE - 6}`} className={css.mean} />}
      {readings.length > 1 && <path d={readings.map((one, index) => `${index === 0 ? 'M' : 'L'}${x(index)} ${y(one)}`).join('')} className={css.trail} />}
      {readings.map((one, index) => (
        // Readings come one behind the other and never change places.
        <circle key={index} cx={x(index)} cy={y(one)} r="5.5" className={Math.abs(one - middle) <= limitMm + 1e-9 ? css.good : css.bad} />
      ))}
      <text x={WIDE - 8} y={HIGH - 4} textAnchor="end" className={css.note}>
        {`${readings.length} of ${of} touches, mm`}
      </text>
    </svg>
  );
} // prettier-ignore
