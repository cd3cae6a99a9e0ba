import { openParts } from '@jolly/core/describe/openParts';
import { isAboutWiring } from '@jolly/session/aboutWiring';
import type { Filled } from '@jolly/core/tree/filled';
import { endInWords } from '@jolly/core/formats/swapSheet';
import type { ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { slipOfFinding } from '../../app/docket/slip';
import { useArmsSteps } from '../../app/frame/StationContext';
import { contradictionSlips } from '../../job/contradictionSlips';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { useWorkbench } from '../../workbench/Workbench';
import { Additions } from './Additions';
import { ElectricityView } from './ElectricityView';
import { LeadBench } from './LeadBench';
import { PinTable } from './PinTable';
import { Ports } from './Ports';
import { SwapSheet } from './SwapSheet';
import { useWiring, type Wiring } from './useWiring';
import { SectionList } from '../../ui/SectionList';
import css from './Wiring.module.css';

const SECTIONS: Readonly<Filled<{ id: string; title: string; show: (wiring: Wiring) => ReactNode }>> = [
  { id: 'bench', title: 'Leads', show: (wiring) => <LeadBench wiring={wiring} /> },
  { id: 'sheet', title: 'Swap sheet', show: (wiring) => <SwapSheet wiring={wiring} /> },
  { id: 'electricity', title: 'Electricity', show: (wiring) => <ElectricityView wiring={wiring} /> },
  { id: 'additions', title: 'Additions', show: (wiring) => <Additions wiring={wiring} /> },
  { id: 'ports', title: 'Doubtful ports', show: (wiring) => <Ports wiring={wiring} /> },
  { id: 'pins', title: 'Pin table', show: (wiring) => <PinTable wiring={wiring} /> },
];

/** Every lead has a place, every swap has a sheet. */
export function WiringStation() {
  const found = useWiring();
  const wiring = found && 'view' in found ? found : undefined;
  const failed = found && 'failed' in found ? found.failed : undefined;
  const job = useJob();
  const slips = useSlips(wiring);
  const [search] = useSearchParams();
  const section = SECTIONS.find(({ id }) => id === search.get('at')) ?? SECTIONS[0];
  const steps = wiring?.view.plan.steps ?? [];
  useArmsSteps(
    steps.map((step) => ({
      title: step.title,
      act: [
        step.cautions.join(' '),
        [endInWords(step.from), endInWords(step.to)].filter(Boolean).join(' → '),
        step.tasks.map(({ what }) => what).join(' '),
      ]
        .filter(Boolean)
        .join('. '),
      done: job.isDone(step.id),
    })),
  );
  const described = wiring && openParts(wiring.after).length > 0 ? ' as far as it is described' : '';
  const left = steps.filter(({ id }) => !job.isDone(id)).length;
  return (
    <>
      <main className={css.bench}>
        <SectionList
          label="Wiring"
          entries={SECTIONS.map(({ id, title }) => ({
            id,
            title,
            ...(id === 'sheet' && steps.length > 0 && { mark: left === 0 ? 'done' : left }),
          }))}
          at={section.id}
          leads={(id) => ({ at: id })}
          lying
        />
        <section className={css.section} tabIndex={0} aria-label={section.title}>
          <h2 className="unseen">{section.title}</h2>
          <NotTakenOver>
            This shows the machine as it will be when the whole job is taken over. Build, Flash and Bring-up
            still work on the machine file.
          </NotTakenOver>
          {wiring ? (
            section.show(wiring)
          ) : failed ? (
            <p role="alert">The wiring could not be worked out: {failed}</p>
          ) : (
            <p className="soft">Weighing every place …</p>
          )}
        </section>
      </main>
      <Docket
        title="While you wire"
        slips={slips}
        checking={!wiring}
        empty={
          job.stored
            ? `No check speaks against this wiring${described}, and the job asks for no special care.`
            : `No check speaks against this wiring${described}. What to watch for comes with a job.`
        }
      />
    </>
  );
}

function useSlips(wiring: Wiring | undefined): Slip[] {
  const { machine } = useWorkbench();
  const job = useJob();
  const all = job.tail?.ripple.consequences.filter((entry) => entry.station === 'wiring') ?? [];
  const cautions = all.filter((entry) => entry.kind === 'caution');
  const to = (subject: string) => `/machines/${machine.id}/wiring?at=bench&lead=${subject}`;
  return [
    ...contradictionSlips(machine.id, job),
    ...job.putBack.map((back): Slip => ({
      id: back.done.id,
      severity: 'mend',
      what: back.title,
      why: 'It was done for a change that is no longer part of the job.',
      evidence: [],
      actions: [{ label: 'It is put back', run: () => job.tick(back.done, false) }],
    })),
    ...(wiring?.view.findings ?? [])
      .filter(isAboutWiring)
      .map((finding) => slipOfFinding(finding, ({ subject }) => to(subject.id))),
    ...cautions.map((caution): Slip => ({
      id: caution.id,
      severity: caution.subject.startsWith('volts-') ? 'stop' : 'note',
      what: caution.title,
      why: '',
      evidence: [`because ${caution.because}`],
      actions: [],
    })),
    ...all
      .filter((entry) => entry.kind === 'idle')
      .map((entry): Slip => ({
        id: entry.id,
        severity: 'note',
        what: `${entry.title}.`,
        why: '',
        evidence: [entry.because],
        actions: [],
      })),
  ];
}
