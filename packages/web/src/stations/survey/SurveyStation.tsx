import { surveySlips } from './surveySlips';
import type { ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import { progressOf, SURVEY_STEPS, type SurveyStep } from '@jolly/session/progress';
import { useStation } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
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
  const [search] = useSearchParams();
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
        <SectionList label="Survey" entries={listed} at={at} leads={(id) => ({ at: id })} />
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
        slips={surveySlips(workbench.machine.id, job)}
        empty="Nothing stands in the way. Open the machine when you are ready."
      />
    </>
  );
}

const WORD = { todo: 'to do', done: 'done', stopped: 'stop' };
const TONE = { todo: undefined, done: 'good', stopped: 'bad' } as const;
