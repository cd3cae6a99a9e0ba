import type { Picture } from '@jolly/core/bringup/picture';
import css from './Pictures.module.css';

/** Filament above its drive, with the mark and what was asked. */
export function FilamentPicture({
  askedMm,
  markMm,
  leftMm,
}: {
  askedMm: number;
  markMm: number;
  leftMm?: number | undefined;
}) {
  const scale = 400 / Math.max(markMm, 60);
  const x = (mm: number) => 110 + mm * scale;
  return (
    <svg viewBox="0 0 560 120" className={css.picture} role="img" aria-label="The filament with its mark">
      <rect x="40" y="34" width="70" height="46" rx="5" className={css.nozzle} />
      <text x="75" y="100" textAnchor="middle" className={css.note}>entry</text>
      <path d={`M110 57H${x(markMm) + 30}`} className={css.filament} />
      <path d={`M${x(markMm)} 40v34`} className={leftMm === undefined ? css.cross : css.faint} />
      <text x={x(markMm)} y="30" textAnchor="middle" className={css.figure}>{`mark ${markMm} mm`}</text>
      {leftMm !== undefined && <path d={`M${x(leftMm)} 40v34`} className={css.cross} />}
      {leftMm !== undefined && <text x={x(leftMm)} y="100" textAnchor="middle" className={css.figure}>{`left ${leftMm} mm`}</text>}
      <text x="552" y="112" textAnchor="end" className={css.note}>{`${askedMm} mm asked`}</text>
    </svg>
  );
} // prettier-ignore

const LIE: Readonly<Record<string, string>> = {
  apart: 'apart',
  merge: 'merge',
  ridges: 'ridges',
  scraped: 'scraped',
};

/** Strips of the first layer from above, each with its nudge and how its strands lay. */
export function StripsPicture({
  strips,
}: {
  strips: readonly { nudgeMm: number; strands?: string | undefined }[];
}) {
  return (
    <ol className={css.strips}>
      {strips.map(({ nudgeMm, strands }, index) => (
        // Strips come one behind the other.
        <li key={index} data-strands={strands ?? 'printing'}>
          <svg viewBox="0 0 60 90" aria-hidden="true">
            {Array.from({ length: 8 }, (_, strand) => (
              <rect
                key={strand}
                x={3 + strand * 6.9}
                y="4"
                width={strands === 'apart' ? 4.2 : strands === 'scraped' ? 2 : 6.4}
                height="82"
                rx="2"
                className={strands === 'ridges' && strand % 2 === 0 ? css.ridge : css.strand}
              />
            ))}
          </svg>
          <b className="figures">{`${nudgeMm > 0 ? '+' : nudgeMm < 0 ? '−' : ''}${Math.abs(nudgeMm).toFixed(2)} mm`}</b>
          <span>{strands === undefined ? 'printing' : (LIE[strands] ?? strands)}</span>
        </li>
      ))}
    </ol>
  );
}

/** Up to here the gap below the tip is drawn to scale, mm. */
const MOST_GAP_MM = 6;

/** Nozzle and probe at rest from the front, the nozzle on the plate: how far the tip stays clear of it. */
type MountShown = Omit<Extract<Picture, { kind: 'mount' }>, 'kind'>;
export function MountPicture({ restMm, leastMm, drawnIn }: MountShown) {
  const scale = 90 / MOST_GAP_MM;
  const tip = 170 - Math.min(MOST_GAP_MM, restMm) * scale;
  return (
    <svg viewBox="0 0 560 210" className={css.picture} role="img" aria-label={`The ${drawnIn ? 'drawn-in ' : ''}tip stands ${restMm} mm above the plate while the nozzle is on it`}>
      <rect x="60" y="170" width="440" height="16" className={css.plate} />
      <path d="M330 60h70v58l-24 52h-22l-24-52Z" className={css.nozzle} />
      <text x="365" y="50" textAnchor="middle" className={css.note}>nozzle, on the plate</text>
      <rect x="178" y={tip - 96} width="44" height="80" rx="4" className={css.nozzle} />
      <path d={`M200 ${tip - 16}V${tip}`} className={css.cross} />
      <text x="200" y={Math.max(14, tip - 104)} textAnchor="middle" className={css.note}>{drawnIn ? 'probe, drawn in' : 'probe'}</text>
      <path d={`M120 ${170 - leastMm * scale}H280`} className={css.mean} />
      <text x="114" y={174 - leastMm * scale} textAnchor="end" className={css.note}>{`at least ${leastMm} mm`}</text>
      <path d={`M250 ${tip}V170`} className={restMm < leastMm ? css.cross : css.goodline} />
      <text x="262" y={Math.min(160, (tip + 176) / 2)} className={css.figure}>{`${restMm} mm`}</text>
    </svg>
  );
} // prettier-ignore
