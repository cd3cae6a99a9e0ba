import type { UpkeepOfMachine } from '@jolly/contract/endpoints/calibrations';
import { withMinus } from '@jolly/core/calibration/calibrationTool';
import { calibrationTools } from '@jolly/core/calibration/calibrationTools';
import type { Facts } from '@jolly/core/machine/facts';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import type { Slip, SlipAction } from '../../app/docket/slip';
import { useBuiltRecord, useImageSettings } from '../../app/frame/useBuiltWith';
import { useJob } from '../../job/JobProvider';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { WorkList } from '../work/WorkList';
import { Drift } from './Drift';
import { SlicerLines } from './SlicerLines';
import { ToolList, useDoneToday } from './ToolList';
import { ToolView } from './ToolView';
import { useCalibrations } from './useCalibrations';

/** What can be measured at this machine, what is due and what is not; and each tool that measures it. */
export function CalibrateStation() {
  const { machine, facts } = useWorkbench();
  const job = useJob();
  const record = useCalibrations(machine.id);
  // What is measured goes by the image that runs, whatever the file says meanwhile.
  const settings = useImageSettings();
  const tools = useMemo(() => calibrationTools(facts, settings), [facts, settings]);
  const recordSlips = useRecordSlips(useBuiltRecord());
  const [search] = useSearchParams();
  const tool = tools.find(({ id }) => id === search.get('tool'));
  const slips = useDueSlips();
  return (
    <>
      <main className="bench">
        {tool ? (
          <ToolView key={tool.id} tool={tool} record={record.data} />
        ) : (
          <>
            <h2>Measure it at the machine</h2>
            <p className="soft">
              In this order, at the temperature you print at. It steps, listens and works out; you watch, feel
              the shim and say so. What you do by hand another way goes on record with “I did this today”.
            </p>
            {record.data ? (
              <ToolList tools={tools} record={record.data} />
            ) : (
              <p className="soft" role="status">
                {record.error ? `What was measured cannot be read: ${record.error.message}` : 'What was measured is looked up.'}
              </p>
            )}
            <WorkList
              title="Because of the job"
              list={(job.tail?.ripple.consequences ?? []).filter(
                (entry) => entry.station === 'calibrate' && entry.kind === 'calibration',
              )}
            />
            <WorkList
              title="Tell the slicer"
              list={(job.tail?.ripple.consequences ?? []).filter(
                (entry) => entry.station === 'calibrate' && entry.kind === 'slicer',
              )}
            />
            <SlicerLines />
            <Drift />
          </>
        )}
      </main>
      <Docket
        title="Due"
        slips={[...recordSlips.slips, ...(slips ?? [])]}
        checking={slips === undefined || recordSlips.checking}
        empty="Nothing is due. What was never measured is not known to hold."
      />
    </>
  );
} // prettier-ignore

/** What was measured and the machine file does not have, taken over with the facts it was measured with. */
const taking = (facts: Facts, aside: NonNullable<UpkeepOfMachine['aside']>): SlipAction[] =>
  aside.length === 0
    ? []
    : [
        {
          label: `Take ${withMinus(aside.map(({ measured, unit }) => `${measured} ${unit}`.trim()).join(', '))} over`,
          edits: aside.map(({ key, measured }) =>
            measuredEdit(facts, key, measured, 'as it was measured last'),
          ),
        },
      ];

/** What is due, with the way to its tool, and the key that says it was done; undefined while it is not known. */
function useDueSlips(): Slip[] | undefined {
  const { machine, facts } = useWorkbench();
  const { data } = useCalibrations(machine.id);
  const { doneToday } = useDoneToday();
  const job = useJob();
  if (!data) return undefined;
  const byJob = new Map(
    job
      .already('calibration')
      .filter(({ id }) => !job.isDone(id))
      .map((entry) => [entry.subject, entry.because]),
  );
  const due = data.upkeep.filter(({ id, state }) => state === 'due' || byJob.has(id));
  const isAside = ({ id, aside = [] }: UpkeepOfMachine) => aside.length > 0 && !byJob.has(id);
  return [...due.filter(isAside), ...due.filter((one) => !isAside(one))].map((one): Slip => {
    const { id, title, because, aside = [] } = one;
    return {
      id: `due:${id}`,
      ...(isAside(one)
        ? { severity: 'mend', what: `${title}: the machine file has another value.` }
        : { severity: 'note', check: 'upkeep.due', what: `${title} is due.` }),
      why: byJob.has(id) ? `Because ${byJob.get(id)}.` : because,
      evidence: [],
      actions: [
        ...taking(facts, isAside(one) ? aside : []),
        { label: 'Measure it', go: `/machines/${machine.id}/calibrate?tool=${id}` },
        { label: 'I did this today', run: () => void doneToday(id, title) },
      ],
    };
  });
}
