import { calibrationsOf } from '@jolly/core';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { WorkList } from '../work/WorkList';
import css from '../work/WorkList.module.css';

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
  const slips: Slip[] = due
    .filter((entry) => !job.isDone(entry.id) && (known.get(entry.subject)?.sets.length ?? 0) > 0)
    .map((entry) => {
      const sets = known.get(entry.subject)!.sets;
      return {
        id: entry.id,
        severity: 'note',
        what: `${entry.title} sets ${sets.length === 1 ? 'a value' : `${sets.length} values`}.`,
        why: 'Type what you measured where it belongs, then tick it off.',
        evidence: sets,
        actions: [
          {
            label: 'To the setting',
            go: `/machines/${machine.id}/settings?part=${partOf(facts, sets[0]!)}&key=${sets[0]}`,
          },
        ],
      };
    });
  return (
    <>
      <main className={css.bench}>
        <h2>{due.length > 0 ? 'Due because of the job' : 'Nothing is due'}</h2>
        <p className={css.soft}>
          {due.length > 0
            ? 'At the temperature you print at. What the job does not touch keeps its value.'
            : job.stored
              ? 'This job touches nothing that was measured.'
              : 'No job is open that would touch what was measured.'}
        </p>
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

const partOf = ({ kit }: ReturnType<typeof useWorkbench>['facts'], key: string) =>
  kit.options.find((option) => option.key === key)?.part ?? 'identity';
