import css from './DirectionsView.module.css';

const WAYS: Record<string, [number, number]> = {
  '+x': [1, 0],
  '-x': [-1, 0],
  '+y': [0, -1],
  '-y': [0, 1],
  '+z': [0, -1],
  '-z': [0, 1],
  '+e': [0, 1],
  '-e': [0, -1],
  '+x+y': [0.7, -0.7],
  '+x-y': [0.7, 0.7],
  '-x+y': [-0.7, -0.7],
  '-x-y': [-0.7, 0.7],
};
const LONG = 26;

/** The way that was asked for, dashed, and the way it went; from above, the front of the machine below. */
export function WayDrawing({ asked, moved }: { asked: string; moved: string }) {
  const arrow = (way: string) => {
    const [x, y] = WAYS[way] ?? [0, 0];
    const [endX, endY] = [36 + x * LONG, 36 + y * LONG];
    const side = (turn: number) => {
      const angle = Math.atan2(-y, -x) + turn;
      return `${endX + 8 * Math.cos(angle)} ${endY + 8 * Math.sin(angle)}`;
    };
    return `M36 36L${endX} ${endY}M${side(0.5)}L${endX} ${endY}L${side(-0.5)}`;
  };
  return (
    <svg viewBox="0 0 72 72" className={css.way} aria-hidden="true">
      <rect x="3" y="3" width="66" height="66" rx="5" className={css.plate} />
      <path d={arrow(asked)} className={css.askedWay} />
      {WAYS[moved] && <path d={arrow(moved)} className={css.movedWay} data-right={asked === moved} />}
      <circle cx="36" cy="36" r="4" className={css.dot} />
    </svg>
  );
}
