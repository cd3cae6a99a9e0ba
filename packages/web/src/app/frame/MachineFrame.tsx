import { useFocusKept } from './useFocusKept';
import { useFoundFocus } from './useFoundFocus';
import { useFrameActs } from './useFrameActs';
import { useUndoing } from './useUndoing';
import { useKnownOf } from './useKnownOf';
import { Plate } from './Plate';
import { Controls } from './Controls';
import { Unguarded } from './Unguarded';
import { Activity, useEffect, useMemo, useState } from 'react';
import { Outlet, useLocation, useParams } from 'react-router';
import { useWatched } from '../../ui/useWatched';
import { appWindow } from '../window';
import { isAwake } from '@jolly/session/power';
import { BenchProvider, useBench, usePowered } from '../../bench/BenchProvider';
import { LeavingBench } from '../../bench/LeavingBench';
import { JobProvider, useJob } from '../../job/JobProvider';
import { MeasuringProvider } from '../../bench/MeasuringProvider';
import { useWorkbench, WorkbenchProvider } from '../../workbench/Workbench';
import { ArmsLength, type ArmsStep } from '../arms/ArmsLength';
import { KeyHelp } from '../keys/KeyHelp';
import { useLeaveField } from '../keys/useLeaveField';
import { Palette } from '../palette/Palette';
import { Spoken } from '../tape/Spoken';
import { TapeStrip } from '../tape/TapeStrip';
import { STATIONS, progressOf } from '@jolly/session/progress';
import { Train } from '../train/Train';
import { MergeDialog } from './MergeDialog';
import { NoServer } from './NoServer';
import { NotOpened } from './NotOpened';
import { NotKnown } from './NotKnown';
import { NotHeard } from './NotHeard';
import { NotRead } from './NotRead';
import { PutAway } from './PutAway';
import { Whole } from './Whole';
import { useTitle } from '../../ui/useTitle';
import css from './MachineFrame.module.css';
import { StationContext } from './StationContext';

/** One printer at a time: plate, train, lamp and stop above; bench and docket; the tape below. */
export function MachineFrame({ whenShown }: { whenShown: () => void }) {
  const { id = '' } = useParams();
  return (
    <WorkbenchProvider
      key={id}
      id={id}
      meanwhile={<Whole title="One moment" text="The machine is being laid on the bench." />}
      failed={(why) => <NotOpened why={why} />}
    >
      <BenchProvider>
        <JobProvider>
          <MeasuringProvider>
            <Frame whenShown={whenShown} />
          </MeasuringProvider>
        </JobProvider>
      </BenchProvider>
    </WorkbenchProvider>
  );
}

function Frame({ whenShown }: { whenShown: () => void }) {
  const workbench = useWorkbench();
  const bench = useBench();
  const job = useJob();
  const { id } = workbench.machine;
  const at = useLocation().pathname.split('/')[3] ?? 'survey';
  const waiting = useWatched(appWindow.outboxes.waiting(id));
  const [tapeOpen, setTapeOpen] = useState(false);
  const [paletteOpen, setPaletteOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [armsOpen, setArmsOpen] = useState(false);
  const [armsSteps, setArmsSteps] = useState<ArmsStep[]>([]);
  const [armsAt, setArmsAt] = useState(0);
  const [armsSlot, setArmsSlot] = useState<HTMLElement | null>(null);
  const { known, lookups } = useKnownOf(id, job.lookups);
  const allKnown = lookups.every(({ state }) => state === 'known');
  // A station that was on the screen keeps what was typed in it while a new job is being worked out.
  const [shown, setShown] = useState(false);
  if (allKnown && !shown) setShown(true);
  useEffect(() => {
    if (shown) whenShown();
  }, [shown, whenShown]);
  const stations = progressOf({ workbench, job, ...known });
  const stationFrame = useMemo(
    () => ({
      ...known,
      setArmsSteps,
      openArms: () => setArmsOpen(true),
      arms: armsSlot ? { slot: armsSlot, at: armsAt } : undefined,
    }),
    [known, armsSlot, armsAt],
  );
  useTitle(STATIONS.find((station) => station.id === at)?.title ?? '', workbench.machine.name);
  const undoing = useUndoing();
  const running = usePowered(isAwake);

  const { acts, items } = useFrameActs({
    undoing,
    paletteOpen,
    stop: running ? bench.stop : undefined,
    openPalette: () => setPaletteOpen(true),
    openKeys: () => setKeysOpen(true),
    turnTape: () => setTapeOpen((open) => !open),
    openArms: () => armsSteps.length > 0 && setArmsOpen(true),
  });
  useFocusKept();
  useFoundFocus();
  useLeaveField();

  return (
    <div className={css.frame} data-tape={tapeOpen}>
      <section className={css.top} aria-label="Machine and link">
        <Plate {...known} />
        <Train stations={stations} machineId={id} at={at} waiting={!allKnown} />
        <Controls running={running} acts={acts} undoing={undoing} steps={armsSteps.length > 0} />
      </section>
      <div className={css.alarms}>
        <NoServer waiting={waiting} running={running} />
        <NotHeard />
        <NotRead />
        <PutAway />
        <LeavingBench />
        <Unguarded board={known.board} />
      </div>
      <StationContext value={stationFrame}>
        {shown && (
          <Activity mode={allKnown ? 'visible' : 'hidden'}>
            <Outlet />
          </Activity>
        )}
        {!allKnown && <NotKnown lookups={lookups} />}
      </StationContext>
      <TapeStrip open={tapeOpen} onToggle={() => setTapeOpen((open) => !open)} />
      <Spoken />
      <MergeDialog />
      <Palette items={items} open={paletteOpen} onClose={() => setPaletteOpen(false)} />
      <KeyHelp open={keysOpen} onClose={() => setKeysOpen(false)} />
      <ArmsLength
        title={`${workbench.machine.name}: ${STATIONS.find((station) => station.id === at)?.title ?? ''}`}
        steps={armsSteps}
        open={armsOpen}
        onClose={() => setArmsOpen(false)}
        at={armsAt}
        setAt={setArmsAt}
        slot={setArmsSlot}
        stop={running ? bench.stop : undefined}
      />
    </div>
  );
}
