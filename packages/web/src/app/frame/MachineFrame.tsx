import { ActionIcon, Button, Tooltip } from '@mantine/core';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconHandStop,
  IconKeyboard,
  IconSearch,
} from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { api, type Proofs } from '../../api/api';
import { BenchProvider, useBench } from '../../bench/BenchProvider';
import { JobProvider, useJob } from '../../job/JobProvider';
import { PARTS } from '../../stations/settings/parts';
import { valueInWords } from '../../stations/settings/SettingRow';
import { useWorkbench, WorkbenchProvider } from '../../workbench/Workbench';
import { ArmsLength, type ArmsStep } from '../arms/ArmsLength';
import { KeyHelp } from '../keys/KeyHelp';
import { useKeys } from '../keys/useKeys';
import { LampSwitch } from '../lamp/LampSwitch';
import { type Findable, Palette } from '../palette/Palette';
import { TapeStrip } from '../tape/TapeStrip';
import { allProven, STATIONS, stationTeeth, SURVEY_STEPS } from '../train/teeth';
import { Train } from '../train/Train';
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
      waiting={<Whole title="One moment" text="The machine is being laid on the bench." />}
      failed={(why) => <Whole title="This machine cannot be opened" text={why} back />}
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
  const [tapeOpen, setTapeOpen] = useState(false);
  const [paletteOpen, setPaletteOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [armsOpen, setArmsOpen] = useState(false);
  const [armsSteps, setArmsSteps] = useState<ArmsStep[]>([]);
  const builds = useQuery({ queryKey: ['builds', id], queryFn: () => api.builds(id) });
  const board = useQuery({ queryKey: ['board', id], queryFn: () => api.board(id) });
  const proofs = useQuery({ queryKey: ['proofs', id], queryFn: () => api.proofs(id) });
  const entries = useQuery({ queryKey: ['entries', id], queryFn: () => api.entries(id) });
  const known = useMemo(
    () => ({
      builds: builds.data ?? [],
      board: board.data,
      proofs: proofs.data,
      entries: entries.data ?? [],
    }),
    [builds.data, board.data, proofs.data, entries.data],
  );
  const stations = stationTeeth({ workbench, job, ...known });
  const stationFrame = useMemo(
    () => ({ ...known, setArmsSteps, openArms: () => setArmsOpen(true) }),
    [known],
  );
  const running = bench.power.state === 'on' && bench.power.silent === undefined;

  const stop = () => running && bench.stop();
  const items = useMemo(
    () =>
      findables(workbench, {
        undo: workbench.undo,
        powerOn: bench.powerOn,
        powerOff: bench.powerOff,
        stop: bench.stop,
        tape: () => setTapeOpen(true),
        keys: () => setKeysOpen(true),
      }),
    [workbench, bench],
  );

  useKeys([
    ...STATIONS.map((station, index): [string, () => void] => [
      String(index + 1),
      () => void navigate(`/machines/${id}/${station.id}`),
    ]),
    ['/', () => setPaletteOpen(true)],
    ['t', () => setTapeOpen((open) => !open)],
    ['a', () => armsSteps.length > 0 && setArmsOpen(true)],
    ['u', () => void workbench.undo()],
    ['shift+u', () => void workbench.redo()],
    ['.', () => void stop()],
    ['shift+?', () => setKeysOpen(true)],
    ['?', () => setKeysOpen(true)],
  ]);

  return (
    <div className={css.frame} data-tape={tapeOpen}>
      <section className={css.top} aria-label="Machine and link">
        <div className={css.plate}>
          <Link to="/" className={css.shelf}>
            ‹ Shelf
          </Link>
          <h1>{workbench.machine.name}</h1>
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
            {runningImage(board.data?.image, proofs.data)}
          </p>
        </div>
        <Train
          stations={stations}
          machineId={id}
          at={at}
          waiting={job.stored !== undefined && job.tail === undefined}
        />
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
            aria-keyshortcuts="."
          >
            Stop
          </Button>
          <div className={css.tools}>
            <Tool
              label="Find anything ( / )"
              act={() => setPaletteOpen(true)}
              icon={<IconSearch size={20} />}
            />
            <Tool
              label="Undo (u)"
              act={() => void workbench.undo()}
              icon={<IconArrowBackUp size={20} />}
              off={!workbench.canUndo}
            />
            <Tool
              label="Do again (shift u)"
              act={() => void workbench.redo()}
              icon={<IconArrowForwardUp size={20} />}
              off={!workbench.canRedo}
            />
            <Tool label="Keys (?)" act={() => setKeysOpen(true)} icon={<IconKeyboard size={20} />} />
            <LampSwitch />
          </div>
        </div>
      </section>
      <StationContext value={stationFrame}>
        <Outlet />
      </StationContext>
      <TapeStrip open={tapeOpen} onToggle={() => setTapeOpen((open) => !open)} />
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

interface Acts {
  undo: () => Promise<void>;
  powerOn: () => Promise<void>;
  powerOff: () => void;
  stop: () => void;
  tape: () => void;
  keys: () => void;
}

function findables(
  { machine, kit, settings, facts, files }: ReturnType<typeof useWorkbench>,
  acts: Acts,
): Findable[] {
  const base = `/machines/${machine.id}`;
  const action = (id: string, title: string, hint: string, to: () => void): Findable => ({
    id: `act-${id}`,
    kind: 'Action',
    title,
    hint,
    to,
  });
  return [
    ...SURVEY_STEPS.map((step): Findable => ({
      id: `survey-${step.id}`,
      kind: 'Survey',
      title: step.title,
      hint: step.done.charAt(0).toLowerCase() + step.done.slice(1),
      to: `${base}/survey?at=${step.id}`,
    })),
    {
      id: 'survey-tail',
      kind: 'Survey',
      title: 'The tail of the job',
      hint: 'all that follows',
      to: `${base}/survey?at=tail`,
    },
    ...STATIONS.map((station, index): Findable => ({
      id: `st-${station.id}`,
      kind: 'Station',
      title: station.title,
      hint: `key ${index + 1}`,
      to: `${base}/${station.id}`,
    })),
    ...kit.options.map((option): Findable => ({
      id: `set-${option.key.replaceAll('.', '-')}`,
      kind: 'Setting',
      title: option.label,
      hint: `${option.key} = ${valueInWords(settings.get(option.key)?.value ?? '')}${'unit' in option ? ` ${option.unit}` : ''}`,
      to: `${base}/settings?part=${PARTS.some((part) => part.id === option.part) ? option.part : 'identity'}&key=${option.key}`,
    })),
    ...facts.parts.map((part): Findable => ({
      id: `part-${part.id}`,
      kind: 'Part',
      title: part.id,
      hint: part.type.name,
      to: `${base}/settings?part=${PARTS.some((entry) => entry.id === part.role) ? part.role : 'frame'}`,
    })),
    ...files
      .filter((file) => file.path.startsWith('pins_'))
      .flatMap((file) =>
        file.lines
          .filter((line) => line.key)
          .map((line): Findable => ({
            id: `pin-${line.key}`,
            kind: 'Pin',
            title: line.key!,
            hint: line.text.replace(/^#define \S+ /, ''),
            to: `${base}/settings?view=files&file=${file.path}`,
          })),
      ),
    action('power-on', 'Switch the power on', 'virtual bench', () => void acts.powerOn()),
    action('power-off', 'Switch the power off', 'virtual bench', acts.powerOff),
    action('stop', 'Stop the machine', 'key .', acts.stop),
    action('undo', 'Undo the last change', 'key u', () => void acts.undo()),
    action('tape', 'Pull the tape up', 'key t', acts.tape),
    action('keys', 'Show all keys', 'key ?', acts.keys),
    { id: 'shelf', kind: 'Machine', title: 'Back to the shelf', hint: 'all machines', to: '/' },
  ];
}
