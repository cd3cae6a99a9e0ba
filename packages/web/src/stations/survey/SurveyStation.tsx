import type { ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { progressOf, SURVEY_STEPS, type SurveyStep } from '@jolly/session/progress';
import { useStation } from '../../app/frame/StationContext';
import { type JobBench, useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { BoardSection } from './BoardSection';
import { JobSection } from './JobSection';
import { LossesSection } from './LossesSection';
import { PhotosSection } from './PhotosSection';
import { ReadySection } from './ReadySection';
import { ReportSection } from './ReportSection';
import { SectionList } from '../../ui/SectionList';
import css from './SurveyStation.module.css';
import { Tail } from './Tail';
import { WayBackSection } from './WayBackSection';

type Section = SurveyStep | 'tail';
const SECTIONS: Record<Section, () => ReactNode> = {
  job: () => <JobSection />,
  tail: () => <Tail />,
  board: () => <BoardSection />,
  report: () => <ReportSection />,
  losses: () => <LossesSection />,
  'way-back': () => <WayBackSection />,
  photos: () => <PhotosSection />,
  ready: () => <ReadySection />,
};
const LISTED: { id: Section; title: string }[] = [
  SURVEY_STEPS[0],
  { id: 'tail', title: 'The tail' },
  ...SURVEY_STEPS.slice(1),
];

/** Know the board, know why, keep a way back, see the whole tail of a change: before a cover is opened. */
export function SurveyStation() {
  const workbench = useWorkbench();
  const job = useJob();
  const station = useStation();
  const [search, setSearch] = useSearchParams();
  const wanted = search.get('at');
  const at: Section = LISTED.find((entry) => entry.id === wanted)?.id ?? (job.stored ? 'tail' : 'job');
  const teeth =
    progressOf({ workbench, job, ...station }).find((entry) => entry.id === 'survey')?.teeth ?? [];
  const listed = LISTED.map(({ id, title }) => {
    const state = teeth.find((tooth) => tooth.id === id)?.state;
    return { id, title, mark: state && WORD[state], tone: state && TONE[state] };
  });
  return (
    <>
      <main className={css.bench}>
        <SectionList
          label="Survey"
          entries={listed}
          at={at}
          onAt={(id) => setSearch({ at: id }, { replace: true })}
        />
        <section
          className={css.section}
          data-at={at}
          tabIndex={0}
          aria-label={LISTED.find((entry) => entry.id === at)?.title}
        >
          {SECTIONS[at]()}
        </section>
      </main>
      <Docket
        title="To settle before you start"
        slips={slipsOf(workbench.machine.id, job)}
        empty="Nothing stands in the way. Open the machine when you are ready."
      />
    </>
  );
}

const WORD = { todo: 'to do', done: 'done', stopped: 'stop' };
const TONE = { todo: undefined, done: 'good', stopped: 'bad' } as const;

function slipsOf(machineId: string, job: JobBench): Slip[] {
  const to = (at: Section) => `/machines/${machineId}/survey?at=${at}`;
  const { stored, tail, wayBack } = job;
  const slips: Slip[] = (tail?.ripple.contradictions ?? []).map((entry) => ({
    id: `contradiction:${entry.id}:${entry.changes.join()}`,
    severity: 'stop',
    what: entry.what,
    why: entry.why,
    evidence: [],
    actions: [{ label: 'To the changes', go: to('job') }],
  }));
  for (const finding of wayBack?.findings ?? [])
    slips.push({
      id: finding.id,
      severity: finding.severity,
      check: finding.id,
      what: finding.what,
      why: finding.why,
      evidence: finding.evidence,
      actions: [{ label: 'Keep one', go: to('way-back') }],
    });
  for (const back of job.putBack)
    slips.push({
      id: `back:${back.done.id}`,
      severity: 'mend',
      what: back.title,
      why: 'It was done for a change that is no longer part of the job.',
      evidence: [],
      actions: [{ label: 'It is put back', run: () => void job.tick(back.done, false) }],
    });
  if (!stored)
    return [
      ...slips,
      {
        id: 'no-job',
        severity: 'note',
        what: 'No job is open.',
        why: 'Firmware is not an app to keep up to date. As long as no part changes, no feature is missing and no bug hits you, leave the machine alone.',
        evidence: [],
        actions: [{ label: 'Something changed', go: to('job') }],
      },
    ];
  const steps: [Section, string, string, boolean][] = [
    [
      'board',
      'Find out which board is on the bench.',
      'The same product was sold with different chips; the marking decides.',
      job.isDone('survey:board'),
    ],
    [
      'report',
      'Save the settings of the old board.',
      'A tuned value that is not written down is gone.',
      job.isDone('survey:report'),
    ],
    [
      'losses',
      'See what the next image takes away.',
      'What the present image does and the next does not is gone once it is flashed.',
      job.isDone('survey:losses') || tail?.ripple.flash !== true,
    ],
    [
      'photos',
      'Photograph the connectors.',
      'Colours lie and memory too.',
      job.photos.length > 0 || !tail?.ripple.consequences.some((entry) => entry.kind === 'lead'),
    ],
    [
      'ready',
      'Lay everything out.',
      'Crimps, meter, card: computed from the job.',
      job.isDone('survey:ready'),
    ],
  ];
  for (const [at, what, why, done] of steps)
    if (!done)
      slips.push({
        id: at,
        severity: 'note',
        what,
        why,
        evidence: [],
        actions: [{ label: 'Do it', go: to(at) }],
      });
  for (const caution of tail?.ripple.consequences.filter((entry) => entry.id.startsWith('caution:volts-')) ??
    [])
    slips.push({
      id: caution.id,
      severity: 'stop',
      what: caution.title,
      why: caution.because,
      evidence: [],
      actions: [{ label: 'To the changes', go: to('job') }],
    });
  return slips;
}
