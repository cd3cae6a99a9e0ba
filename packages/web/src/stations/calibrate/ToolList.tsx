import { figureInWords } from '@jolly/core/text/figureInWords';
import { Button } from '@mantine/core';
import type { CalibrationRecord } from '@jolly/contract/endpoints/calibrations';
import type { CalibrationTool } from '@jolly/core/calibration/calibrationTool';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { asDone, useJob } from '../../job/JobProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { dayOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Calibrate.module.css';
import { useKeepMeasured } from './useKeepMeasured';
import { useMeasuring } from '../../bench/MeasuringProvider';
import { askAnewOf } from '../../api/held';

/** Everything that can be measured, in the order it is done: how it stands, why, and the way to measure it. */
export function ToolList({ tools, record }: { tools: readonly CalibrationTool[]; record: CalibrationRecord }) {
  const { machine } = useWorkbench();
  const { running } = useMeasuring();
  const { doneToday, refused } = useDoneToday();
  const standing = new Map(record.upkeep.map((one) => [one.id, one]));
  const last = new Map([...record.calibrations].reverse().map((one) => [one.calibration, one]));
  const known = new Set(tools.map(({ id }) => id));
  const rows = [
    ...tools.map(({ id, title }) => ({ id, title, tool: true })),
    ...record.upkeep.filter(({ id }) => !known.has(id)).map(({ id, title }) => ({ id, title, tool: false })),
  ];
  return (
    <>
      <Refused why={refused} />
      <ol className={css.list}>
        {rows.map(({ id, title, tool }) => {
          const upkeep = standing.get(id);
          const measured = last.get(id);
          return (
            <li key={id}>
              <div>
                {tool ? <Link to={`/machines/${machine.id}/calibrate?tool=${id}`}>{title}</Link> : <b>{title}</b>}
                {measured && measured.figures.length > 0 && (
                  <small className="figures">
                    {measured.figures.slice(0, 2).map(({ label, value, unit }) => `${label} ${figureInWords(value)} ${unit}`.trim()).join(' · ')}
                  </small>
                )}
              </div>
              <div>
                {upkeep ? (
                  <>
                    <span className={css.state} data-state={upkeep.state}>{STATE[upkeep.state]}</span>
                    <small>
                      {upkeep.because}
                      {upkeep.state === 'not due' && upkeep.dueAt && ` Due by ${dayOf(upkeep.dueAt)}.`}
                    </small>
                  </>
                ) : (
                  <small>{measured ? `Last ${dayOf(measured.at)}. As often as you like.` : 'When you want it.'}</small>
                )}
              </div>
              <div className={css.acts}>
                {running === id && <b>under way</b>}
                {upkeep && (
                  <Button size="compact-sm" variant="default" onClick={() => void doneToday(id, title)}>
                    I did this today
                  </Button>
                )}
              </div>
            </li>
          );
        })}
      </ol>
    </>
  );
} // prettier-ignore

const STATE = { due: 'Due', 'not due': 'Not due', 'not known': 'Not known' } as const;

/** Somebody measured it another way: it is on record as done today, and ticked off in the job. */
export function useDoneToday() {
  const { machine } = useWorkbench();
  const job = useJob();
  const client = useQueryClient();
  const keep = useKeepMeasured();
  const { refused, act } = useAct(() => askAnewOf(client, machine.id, 'calibrations', 'entries'));
  const doneToday = (id: string, title: string) =>
    act(async () => {
      const wentTo = { file: false, board: false, store: false };
      const measured = { calibration: id, outcome: 'done' as const, words: 'done today', evidence: [], figures: [], wentTo }; // prettier-ignore
      const kept = await keep(measured, title).catch(whyOf);
      if (typeof kept === 'string') return `${title}: nobody confirmed that it was written down. ${kept}`;
      for (const entry of job.already('calibration'))
        if (entry.subject === id) await job.tick(asDone(entry), true);
      return undefined;
    });
  return { doneToday, refused };
}
