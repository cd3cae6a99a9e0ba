import css from './Tool.module.css';

const SIZE = 240;
const HEIGHT = 168;
const MOST = 62;

/** Nozzle and probe from above, the front of the machine below: which way is plus, and where the probe sits. */
export function OffsetDrawing({ x, y }: { x: number; y: number }) {
  const middle = { x: SIZE / 2, y: HEIGHT / 2 - 6 };
  const scale = MOST / Math.max(20, Math.abs(x), Math.abs(y));
  const probe = { x: middle.x + x * scale, y: middle.y - y * scale };
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${HEIGHT}`}
      role="img"
      aria-label={`From above: the probe is at X ${x} mm, Y ${y} mm from the nozzle. Right and back are plus.`}
      className={css.drawing}
    >
      <path className={css.axis} d={`M14 ${middle.y}H${SIZE - 14}M${middle.x} 12V${HEIGHT - 26}`} />
      <text x={SIZE - 14} y={middle.y - 5} className={css.word} textAnchor="end">
        + X, right
      </text>
      <text x={14} y={middle.y - 5} className={css.wordLeft}>
        − X, left
      </text>
      <text x={middle.x + 6} y={20} className={css.wordLeft}>
        + Y, back
      </text>
      <text x={middle.x + 6} y={HEIGHT - 30} className={css.wordLeft}>
        − Y, front
      </text>
      <path className={css.offset} d={`M${middle.x} ${middle.y}H${probe.x}V${probe.y}`} />
      <circle cx={middle.x} cy={middle.y} r="6" className={css.nozzle} />
      <path className={css.probe} d={`M${probe.x - 7} ${probe.y}h14M${probe.x} ${probe.y - 7}v14`} />
      <text x={middle.x} y={HEIGHT - 6} className={css.word}>
        you stand here · ○ nozzle · + probe
      </text>
    </svg>
  );
}
