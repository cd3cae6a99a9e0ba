import css from './Pictures.module.css';

/** px a mm. */
const SCALE = 4.2;

/** Nozzle and probe from above, front below: where the probe stands against the nozzle. */
export function MarksPicture({ x, y, known }: { x: number; y: number; known: boolean }) {
  const most = Math.max(24, Math.abs(x) + 10, Math.abs(y) + 10);
  const half = most * SCALE;
  const [px, py] = [x * SCALE, -y * SCALE];
  const mm = (value: number) => Math.abs(value).toFixed(known ? 2 : 1);
  return (
    <svg viewBox={`${-half - 90} ${-half} ${2 * half + 180} ${2 * half + 26}`} className={css.picture} role="img" aria-label="The probe beside the nozzle, from above">
      <path d={`M${-half} 0H${half}M0 ${-half}V${half}`} className={css.gridline} />
      <path d={`M0 0H${px}V${py}`} className={css.measure} />
      <circle r="8" className={css.nozzle} />
      <circle r="2" className={css.hub} />
      <text x="12" y="-12" className={css.label}>nozzle</text>
      <circle cx={px} cy={py} r="9" className={known ? css.dialgood : css.dial} />
      <path d={`M${px - 13} ${py}h26M${px} ${py - 13}v26`} className={css.cross} />
      <text x={px} y={py - 18} textAnchor="middle" className={css.label}>probe</text>
      {x !== 0 && <text x={px / 2} y={py > 0 ? -8 : 18} textAnchor="middle" className={css.figure}>{`${mm(x)} mm ${x < 0 ? 'left' : 'right'}`}</text>}
      {y !== 0 && <text x={px + (x < 0 ? -12 : 12)} y={py / 2 + 5} textAnchor={x < 0 ? 'end' : 'start'} className={css.figure}>{`${mm(y)} mm ${y < 0 ? 'in front' : 'behind'}`}</text>}
      <text x="0" y={half + 20} textAnchor="middle" className={css.note}>front</text>
    </svg>
  );
} // prettier-ignore
