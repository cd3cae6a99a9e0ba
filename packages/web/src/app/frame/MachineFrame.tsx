import { keyWords } from '@jolly/session/keys';
import { ActionIcon, Button, Tooltip } from '@mantine/core';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconHandStop,
  IconKeyboard,
  IconSearch,
} from '@tabler/icons-react';
import type { Finding } from '@jolly/core/finding/finding';
import { useQuery } from '@tanstack/react-query';
import { Activity, useEffect, useMemo, useState, useRef } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { api } from '../../api/api';
import type { Proofs } from '@jolly/contract/endpoints/board';
import { useWatched } from '../useWatched';
import { appWindow } from '../window';
import { BenchProvider, useBench } from '../../bench/BenchProvider';
import { LeavingBench } from '../../bench/LeavingBench';
import { Underway } from '../../bench/Underway';
import { JobProvider, useJob } from '../../job/JobProvider';
import { lookupOf } from '../../job/lookup';
import { useWorkbench, WorkbenchProvider } from '../../workbench/Workbench';
import { ArmsLength, type ArmsStep } from '../arms/ArmsLength';
import { KeyHelp } from '../keys/KeyHelp';
import { useKeys, type KeyActs } from '../keys/useKeys';
import { LampSwitch } from '../lamp/LampSwitch';
import { findables } from '../palette/findables';
import { Palette } from '../palette/Palette';
import { TapeStrip } from '../tape/TapeStrip';
import { fetchStations } from '../stationPages';
import { allProven, STATIONS, progressOf } from '@jolly/session/progress';
import { Train } from '../train/Train';
import { MergeDialog } from './MergeDialog';
import { NoServer } from './NoServer';
import { NotOpened } from './NotOpened';
import { NotKnown } from './NotKnown';
import { Whole } from './Whole';
import css from './MachineFrame.module.css';
import { StationContext } from './StationContext';

/** One printer at a time: plate, train, lamp and stop above; bench and docket; the tape below. */
export function MachineFrame() {
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
          <Frame />
        </JobProvider>
      </BenchProvider>
    </WorkbenchProvider>
  );
}

function Frame() {
  const workbench = useWorkbench();
  const bench = useBench();
  const job = useJob();
  const navigate = useNavigate();
  const { id } = workbench.machine;
  const at = useLocation().pathname.split('/')[3] ?? 'survey';
  const waiting = useWatched(appWindow.outboxes.waiting(id));
  const [tapeOpen, setTapeOpen] = useState(false);
  const [paletteOpen, setPaletteOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [armsOpen, setArmsOpen] = useState(false);
  const [armsSteps, setArmsSteps] = useState<ArmsStep[]>([]);
  const builds = useQuery({ queryKey: ['builds', id], queryFn: () => api.builds({ id }) });
  const board = useQuery({ queryKey: ['board', id], queryFn: () => api.board({ id }) });
  const proofs = useQuery({ queryKey: ['proofs', id], queryFn: () => api.proofs({ id }) });
  const entries = useQuery({ queryKey: ['entries', id], queryFn: () => api.entries({ id }) });
  const known = useMemo(
    () => ({
      builds: builds.data ?? [],
      board: board.data,
      proofs: proofs.data,
      entries: entries.data ?? [],
    }),
    [builds.data, board.data, proofs.data, entries.data],
  );
  const lookups = [
    ...job.lookups,
    lookupOf('the builds', builds),
    lookupOf('the board on the bench', board),
    lookupOf('the proofs', proofs),
    lookupOf('the logbook', entries),
  ];
  const allKnown = lookups.every(({ state }) => state === 'known');
  // A station that was on the screen keeps what was typed in it while a new job is being worked out.
  const [shown, setShown] = useState(false);
  if (allKnown && !shown) setShown(true);
  useEffect(() => {
    if (shown) fetchStations();
  }, [shown]);
  const stations = progressOf({ workbench, job, ...known });
  const stationFrame = useMemo(
    () => ({ ...known, setArmsSteps, openArms: () => setArmsOpen(true) }),
    [known],
  );
  const running = bench.power.state === 'on' && bench.power.silent === undefined;

  const stop = () => running && bench.stop();
  const acts: KeyActs = {
    station: ({ key }) => void navigate(`/machines/${id}/${STATIONS[Number(key) - 1]?.id ?? ''}`),
    find: () => setPaletteOpen(true),
    tape: () => setTapeOpen((open) => !open),
    arms: () => armsSteps.length > 0 && setArmsOpen(true),
    undo: () => void workbench.undo(),
    redo: () => void workbench.redo(),
    stop,
    help: () => setKeysOpen(true),
  };
  useKeys(acts);
  const now = useRef(acts);
  now.current = acts;
  const { powerOn, powerOff } = bench;
  // The bench tells news many times a second: what can be found is listed anew only when the machine changes.
  const items = useMemo(
    () =>
      paletteOpen ? findables(workbench, { ...now.current, powerOn: () => void powerOn(), powerOff }) : [],
    [paletteOpen, workbench, powerOn, powerOff],
  );

  return (
    <div className={css.frame} data-tape={tapeOpen}>
      <section className={css.top} aria-label="Machine and link">
        <div className={css.plate}>
          <div className={css.nameRow}>
            <h1>{workbench.machine.name}</h1>
            <Link to="/" className={css.shelf}>
              ‹ Shelf
            </Link>
          </div>
          <p>
            {workbench.board.name} rev {workbench.board.revision}
          </p>
          {job.stored && (
            <p className={css.job} title={job.stored.job.title}>
              {job.stored.state === 'paused' ? 'Paused: ' : 'Job: '}
              {job.stored.job.title}
            </p>
          )}
          <p className={css.image} data-proven={allProven(proofs.data)}>
            {board.data ? runningImage(board.data.image, proofs.data) : 'what it holds is not known yet'}
          </p>
          <Underway />
        </div>
        <Train stations={stations} machineId={id} at={at} waiting={!allKnown} />
        <div className={css.right}>
          <p className={css.lampRow}>
            <span className={css.lamp} data-lit={running} aria-hidden="true" />
            {linkWord(bench.power.state, running)}
          </p>
          <Button
            color="vermilion"
            variant={running ? 'filled' : 'default'}
            disabled={!running}
            leftSection={<IconHandStop size={20} />}
            onClick={stop}
            aria-keyshortcuts={keyWords('stop')}
          >
            Stop
          </Button>
          <div className={css.tools}>
            <Tool
              label={`Find anything ( ${keyWords('find')} )`}
              act={() => setPaletteOpen(true)}
              icon={<IconSearch size={20} />}
            />
            <Tool
              label={`Undo (${keyWords('undo')})`}
              act={() => void workbench.undo()}
              icon={<IconArrowBackUp size={20} />}
              off={!workbench.canUndo}
            />
            <Tool
              label={`Do again (${keyWords('redo')})`}
              act={() => void workbench.redo()}
              icon={<IconArrowForwardUp size={20} />}
              off={!workbench.canRedo}
            />
            <Tool
              label={`Keys (${keyWords('help')})`}
              act={() => setKeysOpen(true)}
              icon={<IconKeyboard size={20} />}
            />
            <LampSwitch />
          </div>
        </div>
      </section>
      <div className={css.alarms}>
        <NoServer waiting={waiting} running={running} />
        <LeavingBench />
        <Unguarded findings={workbench.findings} />
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
      <MergeDialog />
      <Palette items={items} open={paletteOpen} onClose={() => setPaletteOpen(false)} />
      <KeyHelp open={keysOpen} onClose={() => setKeysOpen(false)} />
      <ArmsLength
        title={`${workbench.machine.name}: ${STATIONS.find((station) => station.id === at)?.title ?? ''}`}
        steps={armsSteps}
        open={armsOpen}
        onClose={() => setArmsOpen(false)}
      />
    </div>
  );
}

/** A guard that is off is said on every screen, set aside or not. */
function Unguarded({ findings }: { findings: Finding[] }) {
  const off = findings.filter(({ id }) => id === 'heat.guard-off');
  if (off.length === 0) return null;
  return (
    <p className={css.unguarded} role="status">
      <b>No thermal guard.</b> {off.map(({ what }) => what).join(' ')} Never leave this machine alone.
    </p>
  );
}

function Tool({
  label,
  act,
  icon,
  off = false,
}: {
  label: string;
  act: () => void;
  icon: React.ReactNode;
  off?: boolean;
}) {
  return (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" aria-label={label} onClick={act} disabled={off}>
        {icon}
      </ActionIcon>
    </Tooltip>
  );
}

function linkWord(state: string, running: boolean): string {
  if (running) return 'Link: virtual bench';
  if (state === 'held') return 'Link held by another window';
  return state === 'on' ? 'Board is silent' : 'No link';
}

function runningImage(
  image: { name: string; buildId: string } | undefined,
  proofs: Proofs | undefined,
): string {
  if (!image) return 'nothing flashed yet';
  return `holds ${image.name} · ${image.buildId} · ${allProven(proofs) ? 'proven' : 'unproven'}`;
}
