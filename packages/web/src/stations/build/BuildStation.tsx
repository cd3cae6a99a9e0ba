import type { Build } from '@jolly/contract/endpoints/builds';
import { Button } from '@mantine/core';
import { stopping } from '@jolly/core/finding/stopping';
import { BUILD_VIEWS } from '@jolly/session/buildViews';
import { newestDone, upToDate } from '@jolly/session/newestBuild';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import { useStation } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { Refused } from '../../ui/Refused';
import { SectionList } from '../../ui/SectionList';
import { useWorkbench } from '../../workbench/Workbench';
import css from './BuildStation.module.css';
import { slips } from './buildSlips';
import { FitView } from './FitView';
import { HistoryView } from './HistoryView';
import { ImageSizes, Log } from './ImageView';
import { RunProgressBar } from './RunProgressBar';
import { useBuild } from './useBuild';
import { useCostRun } from './useCosts';
import { useCulprit } from './useCulprit';
import { useEditedSources } from './useEditedSources';
import { BaseFirst } from './BaseFirst';

/** Makes the image: progress, how full flash and RAM are, what everything takes, and the builds so far. */
export function BuildStation() {
  const workbench = useWorkbench();
  const { machine, findings } = workbench;
  const { builds, board } = useStation();
  const [shown] = useSearchParams();
  const view = BUILD_VIEWS.find(({ id }) => id === shown.get('view'))?.id ?? 'image';
  const building = useBuild(machine.id, builds);
  const newest = builds.find((build) => build.state !== 'running');
  const done = newestDone(builds, workbench.board);
  const search = useCulprit(newest);
  const edited = useEditedSources();
  const costs = useCostRun();
  return (
    <>
      <main className={css.station}>
        <SectionList
          label="Views of Build"
          entries={BUILD_VIEWS}
          at={view}
          leads={(id) => (id === 'image' ? {} : { view: id })}
          lying
        />
        <section
          className={css.bench}
          tabIndex={0}
          aria-label={BUILD_VIEWS.find(({ id }) => id === view)?.title}
        >
          <NotTakenOver>What is built is the machine file, without the whole job.</NotTakenOver>
          {view === 'image' && <ImageBench building={building} />}
          {view === 'fit' && <FitView />}
          {view === 'history' && <HistoryView />}
        </section>
      </main>
      <Docket
        title="To settle"
        slips={slips({
          workbench,
          newest,
          done,
          stops: stopping(findings),
          inBoard: board?.imageHash,
          search,
          edited,
          costs,
        })}
        empty="Nothing stops the build. Build, then take the image to Flash."
      />
    </>
  );
}

function ImageBench({ building }: { building: ReturnType<typeof useBuild> }) {
  const workbench = useWorkbench();
  const { builds } = useStation();
  const { waiting } = useJob();
  const { running, progress, refused, start, cancel } = building;
  const newest = builds.find((build) => build.state !== 'running');
  const done = newestDone(builds, workbench.board);
  const { kit, board, chip, findings } = workbench;
  return (
    <>
      <section className={css.head}>
        <div>
          <h2>{running ? 'Building' : headingOf(workbench, builds)}</h2>
          <p className="soft">
            {kit.name} {kit.version} for {board.name} rev {board.revision}, chip {chip.name}
          </p>
        </div>
        {running ? (
          <Button variant="default" size="md" onClick={() => void cancel()}>
            Cancel the build
          </Button>
        ) : (
          <Button size="md" disabled={stopping(findings).length > 0} onClick={() => void start()}>
            {waiting.length > 0 ? `Build without ${inCount(waiting.length)}` : 'Build'}
          </Button>
        )}
      </section>
      {running && <RunProgressBar label="Build progress" progress={progress} />}
      <Refused why={refused} />
      {done ? (
        <ImageSizes build={done} />
      ) : (
        !running &&
        newest?.state !== 'failed' && (
          <p className="soft">
            Build once before you change anything else: if that fails, the trouble is in the set-up and not in
            your edits.
          </p>
        )
      )}
      {!running && (!done || newest?.state === 'failed') && <BaseFirst />}
      {newest && <Log build={newest} />}
    </>
  );
}

/** What there is of an image, and of what. */
function headingOf(workbench: Parameters<typeof upToDate>[0]['workbench'], builds: readonly Build[]): string {
  if (upToDate({ workbench, builds })) return 'Built from the settings as they are';
  if (newestDone(builds, workbench.board)) return 'The machine file has changed since the last image';
  return builds.some(({ state }) => state === 'done') ? 'No image for this board yet' : 'No image yet';
}

const inCount = (changes: number) => (changes === 1 ? 'the change' : `the ${changes} changes`);
