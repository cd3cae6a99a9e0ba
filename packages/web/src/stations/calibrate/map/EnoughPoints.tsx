import { Button } from '@mantine/core';
import { ENOUGH_MM, gridsEnough } from '@jolly/core/calibration/gridsEnough';
import { overrideEdit } from '@jolly/core/machine/edit';
import type { Heights } from '@jolly/core/plate/heights';
import type { Settings } from '@jolly/core/settings/setting';
import { useMemo } from 'react';
import { Refused } from '../../../ui/Refused';
import { useAct } from '../../../ui/useAct';
import { useWorkbench } from '../../../workbench/Workbench';
import css from './EnoughPoints.module.css';

const [WIDE, HIGH, LEFT, BASE] = [460, 216, 62, 160];

/** How many points are enough: what each coarser grid would miss of this map against what it takes, as one curve. */
export function EnoughPoints({ map, settings }: { map: Heights; settings: Settings }) {
  const { change } = useWorkbench();
  const { refused, act } = useAct();
  const grids = useMemo(() => gridsEnough(settings, map), [settings, map]);
  const enough = grids.find((grid) => grid.enough);
  const [longest, worst] = [
    Math.max(...grids.map(({ seconds }) => seconds)),
    Math.max(ENOUGH_MM * 1.4, ...grids.map((grid) => grid.worst)),
  ];
  const x = (seconds: number) => LEFT + (seconds / longest) * (WIDE - LEFT - 40);
  const y = (miss: number) => BASE - (miss / worst) * (BASE - 18);
  return (
    <section className={css.enough} aria-label="How many points are enough">
      <h3>How many points are enough?</h3>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        role="img"
        aria-label={grids.map((grid) => `${grid.columns} × ${grid.rows}: misses ${grid.worst.toFixed(3)} mm, ${Math.round(grid.seconds)} s`).join('; ')}
      >
        <rect
          x={LEFT}
          y={y(ENOUGH_MM)}
          width={WIDE - LEFT - 10}
          height={BASE - y(ENOUGH_MM)}
          className={css.band}
        />
        <path d={`M${LEFT} ${BASE}H${WIDE - 10}M${LEFT} 14V${BASE}`} className={css.axis} />
        <text x={LEFT - 6} y={y(ENOUGH_MM) + 4} textAnchor="end">{`${ENOUGH_MM} mm`}</text>
        <text x={LEFT - 6} y={BASE + 4} textAnchor="end">
          0
        </text>
        <text x={WIDE - 10} y={BASE + 48} textAnchor="end">
          time to take it
        </text>
        <text x={LEFT} y="11">
          worst miss
        </text>
        <path
          d={grids
            .map(
              (grid, index) => `${index === 0 ? 'M' : 'L'}${x(grid.seconds).toFixed(1)} ${y(grid.worst).toFixed(1)}`,
            )
            .join('')}
          className={css.line}
        />
        {grids.map((grid, index) => (
          <g key={`${grid.columns} ${grid.rows}`}>
            <circle
              cx={x(grid.seconds)}
              cy={y(grid.worst)}
              r={grid.enough ? 7 : 4}
              className={grid.enough ? css.first : css.point}
            />
            <text
              x={x(grid.seconds)}
              y={BASE + (index % 2 === 0 ? 15 : 29)}
              textAnchor="middle"
            >{`${grid.columns}×${grid.rows} ${Math.round(grid.seconds)} s`}</text>
          </g>
        ))}
      </svg>
      <p>
        {enough
          ? `${enough.columns} × ${enough.rows} is the first that misses nothing of this map by more than ${ENOUGH_MM} mm (${enough.worst.toFixed(3)} mm, ${Math.round(enough.seconds)} s).`
          : `No grid of this map misses less than ${ENOUGH_MM} mm.`}{' '}
        It is judged by the points of this map alone: what lies between them nobody has felt.
      </p>
      {enough && enough.columns * enough.rows < map.xs.length * map.ys.length && (
        <Button
          size="xs"
          variant="default"
          onClick={() =>
            void act(() =>
              change(`Map ${enough.columns} × ${enough.rows}`, [
                overrideEdit('map.columns', enough.columns, 'enough by the last map'),
                overrideEdit('map.rows', enough.rows, 'enough by the last map'),
              ]),
            )
          }
        >
          {`Take ${enough.columns} × ${enough.rows} into the settings`}
        </Button>
      )}
      <Refused why={refused} />
    </section>
  );
} // prettier-ignore
