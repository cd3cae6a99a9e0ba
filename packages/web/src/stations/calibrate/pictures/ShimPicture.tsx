import css from './Pictures.module.css';

const [WIDE, HIGH] = [560, 230];
/** Where the plate lies, and how far up the drawing goes, px. */
const FLOOR = 190;
const TOP = 34;
/** From here on the last millimetre is shown enlarged. */
const NEAR_MM = 1.2;

/** The nozzle from the side, above shim and plate, where the board has it; earlier runs as marks. */
export function ShimPicture({
  shownZ,
  stepMm,
  shimMm,
  runs,
}: {
  shownZ: number;
  stepMm: number;
  shimMm: number;
  runs: readonly number[];
}) {
  const most = shownZ > NEAR_MM ? 6 : NEAR_MM;
  const scale = (FLOOR - TOP) / most;
  const y = (mm: number) => FLOOR - Math.max(-20 / scale, Math.min(most, mm)) * scale;
  const tip = y(shownZ);
  const shim = Math.max(3, shimMm * scale);
  const marks = most > NEAR_MM ? [0, 1, 2, 3, 4, 5] : [0, 0.2, 0.4, 0.6, 0.8, 1];
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className={css.picture} role="img" aria-label={`The nozzle at Z ${shownZ.toFixed(3)} mm`}>
      {marks.map((mm) => (
        <g key={mm}>
          <path d={`M60 ${y(mm)}H520`} className={css.gridline} />
          <text x="50" y={y(mm) + 4} textAnchor="end" className={css.figure}>{`${mm} mm`}</text>
        </g>
      ))}
      <rect x="60" y={FLOOR} width="460" height="16" className={css.plate} />
      <rect x="150" y={FLOOR - shim} width="230" height={shim} className={css.shim} />
      <text x="144" y={FLOOR - 5} textAnchor="end" className={css.note}>{`shim ${shimMm} mm`}</text>
      <path d={`M232 ${tip - 46}h56v22l-20 24h-16l-20-24Z`} className={css.nozzle} />
      <path d={`M300 ${tip}H520`} className={css.mean} />
      <text x="520" y="22" textAnchor="end" className={css.big}>{`Z ${shownZ.toFixed(3)}`}</text>
      <path d={`M206 ${tip - 16}v${Math.max(6, Math.min(60, stepMm * scale))}m-4 -5l4 5l4 -5`} className={css.arrow} />
      {runs.map((run, index) => (
        // Runs come one behind the other.
        <path key={index} d={`M${440 + index * 12} ${y(run) - 6}v12`} className={css.goodline} />
      ))}
      {runs.length > 0 && (
        <text x="60" y={HIGH - 3} className={css.note}>
          {`dragged at ${runs.map((run) => run.toFixed(3)).join(', ')} mm`}
        </text>
      )}
    </svg>
  );
} // prettier-ignore
