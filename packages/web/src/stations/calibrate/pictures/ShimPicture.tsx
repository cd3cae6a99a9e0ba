import css from './Pictures.module.css';

const [WIDE, HIGH] = [560, 230];
/** px for a mm, and how far apart the plate lies from the lower edge. */
const SCALE = 26;
const FLOOR = 196;

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
  const y = (mm: number) => FLOOR - Math.max(-0.8, Math.min(6, mm)) * SCALE;
  const tip = y(shownZ);
  const shim = Math.max(3, shimMm * SCALE);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className={css.picture} role="img" aria-label={`The nozzle at Z ${shownZ.toFixed(3)} mm`}>
      {[0, 1, 2, 3, 4, 5].map((mm) => (
        <g key={mm}>
          <path d={`M60 ${y(mm)}H520`} className={css.gridline} />
          <text x="50" y={y(mm) + 4} textAnchor="end" className={css.figure}>{`${mm} mm`}</text>
        </g>
      ))}
      <rect x="60" y={FLOOR} width="460" height="16" className={css.plate} />
      <rect x="150" y={FLOOR - shim} width="230" height={shim} className={css.shim} />
      <text x="386" y={FLOOR - 6} className={css.note}>{`shim ${shimMm} mm`}</text>
      <path d={`M232 ${tip - 52}h56v26l-20 26h-16l-20-26Z`} className={css.nozzle} />
      <path d={`M300 ${tip}H520`} className={css.mean} />
      <text x="524" y={tip + 5} textAnchor="end" className={css.big}>{`Z ${shownZ.toFixed(3)}`}</text>
      {stepMm >= 0.05 && <path d={`M206 ${tip}v${Math.max(5, stepMm * SCALE)}m-4 -5l4 5l4 -5`} className={css.arrow} />}
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
