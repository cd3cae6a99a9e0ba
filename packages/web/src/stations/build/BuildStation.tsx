import { Button, Progress } from '@mantine/core';
import type { Finding } from '@jolly/core/finding/finding';
import { fitFindings } from '@jolly/core/build/fitFindings';
import { overrideEdit } from '@jolly/core/machine/edit';
import { stopping } from '@jolly/core/finding/stopping';
import { useQuery } from '@tanstack/react-query';
import type { ImageFormat } from '@jolly/core/image/imageFile';
import { keysOf } from '@jolly/core/tree/keysOf';
import { api, imageFileUrl } from '../../api/api';
import type { Build } from '@jolly/contract/endpoints/builds';
import { Docket } from '../../app/docket/Docket';
import { type Slip, slipOfFinding } from '../../app/docket/slip';
import { useStation } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { newestDone, upToDate } from '@jolly/session/newestBuild';
import { useWorkbench, type Workbench } from '../../workbench/Workbench';
import { partOfFinding, partOfSetting } from '@jolly/session/machineParts';
import { whenOf } from '../../ui/when';
import { Budget } from './Budget';
import { Refused } from '../../ui/Refused';
import { lowerFirst } from '../../ui/letterCase';
import css from './BuildStation.module.css';
import { imageFeatures } from '@jolly/core/fit/imageFeatures';
import { useBuild } from './useBuild';

/** Sources shown in the bar of what takes the room. */
const SOURCES = 12;

/** Makes the image: progress, how full flash and RAM are, what takes the room, and the first error as a slip. */
export function BuildStation() {
  const workbench = useWorkbench();
  const { machine, chip, findings } = workbench;
  const { builds, board } = useStation();
  const { waiting } = useJob();
  const { running, progress, refused, start, cancel } = useBuild(machine.id, builds);
  const newest = builds.find((build) => build.state !== 'running');
  const done = newestDone(builds);
  const stops = stopping(findings);
  const fresh = upToDate({ workbench, builds });

  return (
    <>
      <main className={`bench ${css.bench}`}>
        <section className={css.head}>
          <div>
            <h2>
              {running
                ? 'Building'
                : done && fresh
                  ? 'Built from the settings as they are'
                  : done
                    ? 'The settings have changed since the last image'
                    : 'No image yet'}
            </h2>
            <p className="soft">
              {workbench.kit.name} {workbench.kit.version} for {workbench.board.name} rev{' '}
              {workbench.board.revision}, chip {chip.name}
            </p>
          </div>
          {running ? (
            <Button variant="default" size="md" onClick={() => void cancel()}>
              Cancel the build
            </Button>
          ) : (
            <Button size="md" disabled={stops.length > 0} onClick={() => void start()}>
              {waiting.length > 0 ? `Build without ${inCount(waiting.length)}` : 'Build'}
            </Button>
          )}
        </section>
        <NotTakenOver>What is built is the machine file, without the whole job.</NotTakenOver>
        {running && <BuildProgress progress={progress} />}
        <Refused why={refused} />
        {done ? (
          <ImageSizes build={done} />
        ) : (
          !running && (
            <p className="soft">
              Build once before you change anything else: if that fails, the trouble is in the set-up and not
              in your edits.
            </p>
          )
        )}
        {newest && <Log build={newest} />}
      </main>
      <Docket
        title="To settle"
        slips={slips(workbench, newest, done, stops, board?.imageHash)}
        empty="Nothing stops the build. Build, then take the image to Flash."
      />
    </>
  );
}

type Done = Extract<Build, { state: 'done' }>;

function BuildProgress({ progress }: { progress: ReturnType<typeof useBuild>['progress'] }) {
  return (
    <div className={css.progress}>
      <Progress.Root size="lg">
        <Progress.Section
          value={progress ? (100 * progress.done) / progress.total : 0}
          aria-label="Build progress"
        />
      </Progress.Root>
      <p className="figures" aria-live="polite">
        {progress ? `${progress.done} of ${progress.total}: ${progress.doing}` : 'waiting for the compiler'}
      </p>
    </div>
  );
}

function ImageSizes({ build }: { build: Done }) {
  const { chip } = useWorkbench();
  const { sizes } = build;
  return (
    <>
      <div className={css.budgets} aria-label="Budgets">
        <Budget name="Flash" used={sizes.flashBytes} has={chip.flash_bytes} />
        <Budget
          name="RAM"
          used={sizes.ramBytes}
          has={chip.ram_bytes}
          note={`used counts ${sizes.stackBytes.toLocaleString('en')} bytes kept for the stack`}
        />
      </div>
      <p className={css.made}>
        Build <b className="figures">{build.buildId}</b> · {build.compiled} sources compiled anew ·{' '}
        {whenOf(build.endedAt)}
      </p>
      <SaveImage hash={build.imageHash} />
      <h3>What takes the room</h3>
      <ol className={css.sources}>
        {sizes.bySource.slice(0, SOURCES).map((source) => (
          <li key={source.name}>
            <span>{source.name}</span>
            <i
              style={{
                width: `${(100 * source.bytes) / (sizes.bySource[0]?.bytes ?? source.bytes)}%`,
              }}
            />
            <b>{source.bytes}</b>
          </li>
        ))}
      </ol>
    </>
  );
}

const FORMATS: Readonly<Record<ImageFormat, string>> = {
  bin: '.bin, for a card',
  hex: 'Intel HEX, for a programmer',
  uf2: 'UF2, for a board that shows itself as a drive',
};

/** The image as a file; it was read back before it is handed out. */
function SaveImage({ hash }: { hash: string }) {
  return (
    <p className="row" aria-label="Save the image" role="group">
      Save the image:
      {keysOf(FORMATS).map((format) => (
        <a key={format} href={imageFileUrl(hash, format)} download>
          {FORMATS[format]}
        </a>
      ))}
    </p>
  );
}

const inCount = (changes: number) => (changes === 1 ? 'the change' : `the ${changes} changes`);

function Log({ build }: { build: Build }) {
  const log = useQuery({
    queryKey: ['log', build.id],
    queryFn: () => api.buildLog({ id: build.id }),
    staleTime: Infinity,
  });
  if (!log.data?.log) return null;
  return (
    <details className={css.log}>
      <summary>What the compiler said</summary>
      <pre tabIndex={0}>{log.data.log}</pre>
    </details>
  );
}

function slips(
  workbench: Workbench,
  newest: Build | undefined,
  done: Done | undefined,
  stops: Finding[],
  inBoard: string | null | undefined,
): Slip[] {
  const base = `/machines/${workbench.machine.id}`;
  const goTo = (finding: Finding) =>
    `${base}/settings?part=${partOfFinding(finding, workbench)}${finding.subject.kind === 'setting' ? `&key=${finding.subject.id}` : ''}`;
  // How an older image fits says nothing of the settings as they are.
  const fresh = done !== undefined && upToDate({ workbench, builds: [done] });
  const fit = fresh ? fitFindings(done.sizes, workbench.chip) : [];
  const tooLarge = fit.some(({ severity }) => severity === 'stop');
  return [
    ...stops.map((finding) => slipOfFinding(finding, goTo)),
    ...(newest?.state === 'failed' ? [failedSlip(newest, workbench, base)] : []),
    // How an image fits is no matter of opinion: it cannot be set aside.
    ...fit.map((finding): Slip => {
      const { finding: _fit, actions: _actions, ...slip } = slipOfFinding(finding, goTo);
      const features = imageFeatures(workbench).filter(({ on }) => on);
      return {
        ...slip,
        evidence: [
          ...slip.evidence,
          ...features.map(({ label, without }) => `${label} is on. Without it: ${lowerFirst(without)}`),
          ...(features.length === 0
            ? ['nothing that can be done without is on; it takes another board']
            : []),
        ],
        actions: features.slice(0, MOST_OFFERED).map(({ key, label }) => ({
          label: `Switch off: ${label}`,
          edits: [overrideEdit(key, false, 'switched off so that the image fits')],
        })),
      };
    }),
    ...(newest?.state === 'cancelled' || newest?.state === 'interrupted' ? [endedSlip(newest.state)] : []),
    ...(fresh && !tooLarge
      ? [
          {
            id: 'take',
            severity: 'ready',
            what: `Build ${done.buildId} is ready`,
            why: done.imageHash === inBoard ? 'The board has it already.' : 'Take it to the board.',
            evidence: changedLines(done.changed),
            actions: [{ label: 'To Flash', go: `${base}/flash` }],
          } satisfies Slip,
        ]
      : []),
  ];
}

const MOST_OFFERED = 3;

function changedLines(changed: string[]): string[] {
  return changed.length === 0 ? [] : [`changed since the image before: ${changed.join(', ')}`];
}

function failedSlip(build: Extract<Build, { state: 'failed' }>, workbench: Workbench, base: string): Slip {
  const { key, file, line, message } = build.failed;
  return {
    id: `failed:${build.id}`,
    severity: 'stop',
    what: 'The build failed.',
    why: `The first error: ${message}.`,
    evidence: [
      ...(file ? [`${file}, line ${line}`] : []),
      ...(key ? [`setting ${key}: ${String(workbench.settings.get(key)?.value)}`] : []),
    ],
    actions: key
      ? [
          {
            label: 'Go to this setting',
            go: `${base}/settings?part=${partOfSetting(key, workbench)}&key=${key}`,
          },
        ]
      : [],
  };
}

function endedSlip(state: 'cancelled' | 'interrupted'): Slip {
  return {
    id: 'ended',
    severity: 'note',
    what: state === 'cancelled' ? 'You cancelled the last build.' : 'The last build was interrupted.',
    why:
      state === 'cancelled'
        ? 'Nothing was stored of it. Sources already compiled are kept and not compiled again.'
        : 'The program ended while it ran. Nothing was stored of it; build again.',
    evidence: [],
    actions: [],
  };
}
