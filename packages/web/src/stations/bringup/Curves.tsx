import type { HeatCurve } from '@jolly/core/bringup/heatCurve';
import { bodyInWords } from '@jolly/core/bringup/boardReading';
import { SECOND_HOTEND } from '@jolly/core/machine/machine';
import { memo } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import css from './Curves.module.css';

/** How far back the curves go, in s of the bench's clock. */
const SPAN_S = 600;
/** More would not be seen, and drawn at every reading. */
const MOST_POINTS = 160;
const COLOURS: Record<string, string> = {
  hotend: 'var(--vermilion)',
  [SECOND_HOTEND]: 'var(--ink)',
  bed: 'var(--brass)',
  chamber: 'var(--verdigris)',
};

interface Row {
  s: number;
  [series: string]: number;
}

const AXIS = { tick: { fontSize: 12, fill: 'var(--ink-soft)' }, stroke: 'var(--line-strong)' };

/** Duty, target and temperature of a body. */
const linesOf = (body: string) => {
  const line = { stroke: COLOURS[body] ?? 'var(--ink)', dot: false, isAnimationActive: false };
  return [
    <Line
      key={`${body} duty`}
      yAxisId="duty"
      dataKey={`${body} duty`}
      {...line}
      strokeWidth={0.8}
      strokeOpacity={0.35}
    />,
    <Line key={`${body} target`} yAxisId="c" dataKey={`${body} target`} {...line} strokeDasharray="5 4" />,
    <Line key={body} yAxisId="c" dataKey={body} {...line} strokeWidth={2.2} />,
  ];
};

/** Temperature, target and duty of each body over the last ten minutes, as the board told them. */
function Curves({ curve }: { curve: HeatCurve }) {
  const until = curve.at(-1)?.s ?? 0;
  const shown = curve.filter(({ s }) => s >= until - SPAN_S);
  const bodies = Object.keys(shown.at(-1)?.bodies ?? {});
  const every = Math.ceil(shown.length / MOST_POINTS);
  const thinned = shown.filter((_, index) => (shown.length - 1 - index) % every === 0);
  const rows = thinned.map(({ s, bodies: told }): Row => {
    const row: Row = { s };
    for (const [body, { now, target, duty }] of Object.entries(told)) {
      row[body] = now;
      if (target > 0) row[`${body} target`] = target;
      row[`${body} duty`] = duty * 100;
    }
    return row;
  });
  return (
    <figure className={css.curves}>
      <figcaption>
        Temperature, the last ten minutes
        <span className={css.legend}>
          {bodies.map((body) => (
            <span key={body}>
              <i style={{ background: COLOURS[body] ?? 'var(--ink)' }} />
              {bodyInWords(`heat ${body}`)}, target dashed, duty thin
            </span>
          ))}
        </span>
      </figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={rows} margin={{ top: 6, right: 4, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="s"
            type="number"
            domain={[Math.max(0, until - SPAN_S), Math.max(60, until)]}
            tickFormatter={(s: number) => `${Math.round(s)} s`}
            {...AXIS}
          />
          <YAxis
            yAxisId="c"
            width={52}
            domain={[0, (most: number) => Math.max(60, Math.ceil(most / 20) * 20)]}
            tickFormatter={(c: number) => `${c} °C`}
            {...AXIS}
          />
          <YAxis
            yAxisId="duty"
            orientation="right"
            width={56}
            domain={[0, 100]}
            ticks={[0, 50, 100]}
            tickFormatter={(share: number) => `${share} %`}
            {...AXIS}
          />
          {bodies.flatMap(linesOf)}
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}

export default memo(Curves);
