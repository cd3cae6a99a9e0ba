import css from './Tool.module.css';

const OUTPUT = 46;
const LEAST = 9;

/** What a gear ratio means: the small wheel of the motor turns so often while the large one turns once. */
export function GearDrawing({ ratio }: { ratio: number }) {
  const up = ratio >= 1;
  const big = OUTPUT;
  const little = Math.max(LEAST, up ? big / ratio : big * ratio);
  const [motor, output] = up ? [little, big] : [big, little];
  const y = 66;
  const words = `The motor turns ${Number(ratio.toPrecision(4))} times while the driven shaft turns once.`;
  return (
    <svg viewBox="0 0 260 132" role="img" aria-label={words} className={css.drawing}>
      <Wheel x={40 + motor} y={y} r={motor} labelY={124} label={`motor, ${Number(ratio.toPrecision(4))} ×`} />
      <Wheel x={40 + 2 * motor + output + 1} y={y} r={output} labelY={12} label="driven shaft, 1 ×" />
    </svg>
  );
}

function Wheel({
  x,
  y,
  r,
  label,
  labelY,
}: {
  x: number;
  y: number;
  r: number;
  label: string;
  labelY: number;
}) {
  return (
    <g>
      <circle cx={x} cy={y} r={r} className={css.wheel} />
      <circle cx={x} cy={y} r={r} className={css.teeth} />
      <circle cx={x} cy={y} r="3" className={css.hub} />
      <path d={`M${x} ${y}V${y - r + 3}`} className={css.mark} />
      <text x={x} y={labelY} className={css.word}>
        {label}
      </text>
    </g>
  );
}
