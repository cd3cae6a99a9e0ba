import { Checkbox } from '@mantine/core';
import { calibrationsOf } from '@jolly/core/calibration/calibrations';
import { useState } from 'react';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { whenOf } from '../../ui/when';
import { TickList } from '../work/TickList';
import { WorkList } from '../work/WorkList';

/** What the job makes due, how it is measured, and where its value is set. */
export function CalibrateStation() {
  const { machine, facts } = useWorkbench();
  const job = useJob();
  const all = job.tail?.ripple.consequences.filter((entry) => entry.station === 'calibrate') ?? [];
  const due = all.filter((entry) => entry.kind === 'calibration');
  const slicer = all.filter((entry) => entry.kind === 'slicer');
  const known = new Map(calibrationsOf(facts).map((entry) => [entry.id, entry]));
  useArmsSteps(
    due.map((entry) => ({
      title: entry.title,
      act: known.get(entry.subject)?.how ?? '',
      done: job.isDone(entry.id),
    })),
  );
  const unmeasured = [
    ...due.filter((entry) => !job.isDone(entry.id)),
    ...(job.dues ?? [])
      .filter(({ id }) => !due.some(({ subject }) => subject === id))
      .map(({ id, title }) => ({ id: `due:${id}`, subject: id, title })),
  ];
  const slips: Slip[] = unmeasured.flatMap(({ id, subject, title }): Slip[] => {
    const sets = known.get(subject)?.sets ?? [];
    const [first] = sets;
    if (first === undefined) return [];
    return [
      {
        id,
        severity: 'note',
        what: `${title} sets ${sets.length === 1 ? 'a value' : `${sets.length} values`}.`,
        why: 'Type what you measured where it belongs, then tick it off.',
        evidence: sets,
        actions: [
          {
            label: 'To the setting',
            go: `/machines/${machine.id}/settings?part=${partOf(facts, first)}&key=${first}`,
          },
        ],
      },
    ];
  });
  return (
    <>
      <main className="bench">
        <h2>{heading(due.length, job)}</h2>
        <p className="soft">
          {due.length > 0
            ? 'At the temperature you print at. What the job does not touch keeps its value.'
            : job.stored
              ? job.tail && 'This job touches nothing that was measured.'
              : (job.dues ?? []).length > 0
                ? 'Jobs that are finished made these due. They stay until they are measured.'
                : 'No job is open that would touch what was measured.'}
        </p>
        <StillDue />
        <WorkList
          title="Measure again"
          list={due}
          beside={(entry) => <p>{known.get(entry.subject)?.how}</p>}
        />
        <WorkList title="Tell the slicer" list={slicer} />
      </main>
      <Docket title="Where values go" slips={slips} empty="No value waits to be typed in." />
    </>
  );
}

/** Not known yet, due, and nothing are three things. */
function heading(count: number, { stored, tail, dues }: ReturnType<typeof useJob>): string {
  if (count > 0) return 'Due because of the job';
  if ((stored && !tail) || !dues) return 'Working out what is due';
  return dues.length > 0 ? 'Due since an earlier job' : 'Nothing is due';
}

/** What finished jobs left to be measured. */
function StillDue() {
  const { facts } = useWorkbench();
  const { dues = [], settleDue } = useJob();
  const [refused, setRefused] = useState<string>();
  const how = new Map(calibrationsOf(facts).map((entry) => [entry.id, entry.how]));
  if (dues.length === 0) return null;
  return (
    <TickList title="Still due" count={String(dues.length)} refused={refused}>
      {dues.map((due) => (
        <li key={due.id}>
          <Checkbox
            checked={false}
            onChange={() => void settleDue(due).then(setRefused)}
            label={due.title}
            description={`because ${due.because}; since ${whenOf(due.since)}`}
          />
          <p>{how.get(due.id)}</p>
        </li>
      ))}
    </TickList>
  );
}

const partOf = ({ kit }: ReturnType<typeof useWorkbench>['facts'], key: string) =>
  kit.options.find((option) => option.key === key)?.part ?? 'identity';
