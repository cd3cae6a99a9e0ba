import type { Screw, ScrewTurn } from '@jolly/core/plate/screwTurns';
import { LEVEL_MM } from '@jolly/core/calibration/tramTool';
import css from './Pictures.module.css';

const R = 26;

/** The plate from above, front below, with a dial at each screw: how far to turn it, which way, and what that lifts. */
export function ScrewsPicture({
  turns,
  screws,
  bed,
  round,
}: {
  turns: readonly ScrewTurn[];
  screws: readonly Screw[];
  bed: { x: readonly [number, number]; y: readonly [number, number] };
  round: number;
}) {
  const [wide, deep] = [bed.x[1] - bed.x[0], bed.y[1] - bed.y[0]];
  const scale = 300 / Math.max(wide, deep);
  const at = ({ x, y }: Screw) => ({ x: 130 + (x - bed.x[0]) * scale, y: 34 + (bed.y[1] - y) * scale });
  const high = deep * scale + 84;
  return (
    <svg viewBox={`0 0 ${wide * scale + 260} ${high}`} className={css.picture} role="img" aria-label="What to turn at each screw">
      <rect x="130" y="34" width={wide * scale} height={deep * scale} rx="8" className={css.plate} />
      <text x={130 + (wide * scale) / 2} y={high - 26} textAnchor="middle" className={css.note}>front</text>
      <text x={130 + (wide * scale) / 2} y={high - 8} textAnchor="middle" className={css.note}>{`seen from above, round ${round}`}</text>
      {screws.map((screw) => {
        const turn = turns.find(({ id }) => id === screw.id);
        if (!turn) return null;
        const { x, y } = at(screw);
        const level = turn.mm <= LEVEL_MM;
        const left = x < 130 + (wide * scale) / 2;
        const side = left ? x - R - 8 : x + R + 8;
        return (
          <g key={screw.id}>
            <circle cx={x} cy={y} r={R} className={level ? css.dialgood : css.dial} />
            {!level && <path d={wedge(x, y, Math.min(0.97, turn.turns), turn.rotate === 'anticlockwise')} className={css.wedge} />}
            <circle cx={x} cy={y} r="3.5" className={css.hub} />
            <text x={side} y={y - 4} textAnchor={left ? 'end' : 'start'} className={css.label}>{screw.id}</text>
            <text x={side} y={y + 13} textAnchor={left ? 'end' : 'start'} className={css.figure}>{level ? 'level' : `${turn.move === 'raise' ? '↑' : '↓'} ${turn.mm.toFixed(2)} mm`}</text>
            {!level && <text x={side} y={y + 30} textAnchor={left ? 'end' : 'start'} className={css.figure}>{`${turn.turns.toFixed(2)} turn`}</text>}
          </g>
        );
      })}
    </svg>
  );
} // prettier-ignore

/** A slice of a dial from straight up, as large as the turn. */
function wedge(x: number, y: number, turns: number, anticlockwise: boolean): string {
  const angle = turns * 2 * Math.PI * (anticlockwise ? -1 : 1);
  const to = `${x + R * Math.sin(angle)} ${y - R * Math.cos(angle)}`;
  return `M${x} ${y}V${y - R}A${R} ${R} 0 ${turns > 0.5 ? 1 : 0} ${anticlockwise ? 0 : 1} ${to}Z`;
}
