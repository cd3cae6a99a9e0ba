import { type Build } from '@jolly/contract/endpoints/builds';
import type { CostRun } from '@jolly/contract/endpoints/costs';
import { explain } from '@jolly/core/build/explain';
import { fitFindings } from '@jolly/core/build/fitFindings';
import type { Finding } from '@jolly/core/finding/finding';
import { upToDate } from '@jolly/session/newestBuild';
import { partOfFinding, settingPath } from '@jolly/session/machineParts';
import { type Slip, slipOfFinding } from '../../app/docket/slip';
import type { Workbench } from '../../workbench/Workbench';
import type { CulpritSearch } from './useCulprit';
import type { EditedSources } from './useEditedSources';

/** What the docket of Build is made of. */
export interface AtBuild {
  workbench: Workbench;
  newest: Build | undefined;
  done: Extract<Build, { state: 'done' }> | undefined;
  stops: Finding[];
  inBoard: string | null | undefined;
  search: CulpritSearch;
  edited: EditedSources;
  /** What each feature takes, as it was measured last. */
  costs: CostRun | null | undefined;
}

/** What there is to settle at Build. */
export function slips({ workbench, newest, done, stops, inBoard, search, edited, costs }: AtBuild): Slip[] {
  const base = `/machines/${workbench.machine.id}`;
  const goTo = (finding: Finding) =>
    `${base}/settings?part=${partOfFinding(finding, workbench)}${finding.subject.kind === 'setting' ? `&key=${finding.subject.id}` : ''}`;
  // How an older image fits says nothing of the settings as they are.
  const fresh = done !== undefined && upToDate({ workbench, builds: [done] });
  const fit = fresh ? fitFindings(done.sizes, workbench.chip) : measuredFit(workbench, costs);
  const tooLarge = fit.some(({ severity }) => severity === 'stop');
  return [
    ...editedSlips(edited),
    ...stops.map((finding) => slipOfFinding(finding, goTo)),
    ...(newest?.state === 'failed' ? [failedSlip(newest, workbench, base, search)] : []),
    // How an image fits is no matter of opinion: it cannot be set aside.
    ...fit.map((finding): Slip => {
      const { finding: _fit, actions: _actions, ...slip } = slipOfFinding(finding, goTo);
      return { ...slip, actions: [{ label: 'Make it fit', go: `${base}/build?view=fit` }] };
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

/** Without an image of these settings: how one fits that was built only to measure what everything takes. */
function measuredFit({ version, chip }: Workbench, costs: AtBuild['costs']): Finding[] {
  if (costs?.state !== 'done' || costs.machineVersion !== version) return [];
  const { flash, ram } = costs.costs.whole;
  return fitFindings({ flashBytes: flash, ramBytes: ram }, chip).map((finding) => ({
    ...finding,
    evidence: [...finding.evidence, 'as it was measured; no image was built of it yet'],
  }));
}

function changedLines(changed: string[]): string[] {
  return changed.length === 0 ? [] : [`changed since the image before: ${changed.join(', ')}`];
}

function failedSlip(build: FailedBuild, workbench: Workbench, base: string, search: CulpritSearch): Slip {
  const { key, file, line, message } = build.failed;
  const known = explain(build.failed);
  const shown = (of: string) => settingPath(of, workbench);
  // What failed then may be mended by now: only building again tells.
  const asItWas = build.machineVersion === workbench.version;
  const remedy = known?.remedy ?? 'These are the compiler’s own words; the log below says more.';
  return {
    id: `failed:${build.id}`,
    severity: asItWas ? 'stop' : 'note',
    what: known ? `The build failed. ${known.what}` : 'The build failed.',
    why: `The first error: ${message}. ${asItWas ? remedy : 'The machine file has changed since: build again to see.'}`,
    evidence: [
      ...(file ? [`${file}, line ${line}`] : []),
      ...(key && asItWas ? [`setting ${key}: ${String(workbench.settings.get(key)?.value)}`] : []),
      ...culpritLines(build),
      ...(search.progress ? [`building ${search.progress.doing}, ${search.progress.done} built`] : []),
      ...(search.refused ? [search.refused] : []),
    ],
    actions: [
      ...(key ? [{ label: 'Go to this setting', go: shown(key) }] : []),
      ...culpritActions(build, search),
    ],
  };
}

type FailedBuild = Extract<Build, { state: 'failed' }>;

function culpritLines({ changed, culprit }: FailedBuild): string[] {
  if (culprit && 'keys' in culprit)
    return [
      `the smallest change that breaks it, found in ${culprit.builds} builds: ${culprit.keys.join(' with ')}`,
    ];
  if (culprit)
    return [
      'with every setting as it was it breaks too: a source of the kit, the board, parts or wiring are other than in the last good build',
    ];
  return changed && changed.length > 0
    ? [
        `changed since the last good build: ${changed.slice(0, MOST_NAMED).join(', ')}${changed.length > MOST_NAMED ? ` and ${changed.length - MOST_NAMED} more` : ''}`,
      ]
    : [];
}
const MOST_NAMED = 6;

function culpritActions({ changed, culprit }: FailedBuild, search: CulpritSearch): Slip['actions'] {
  if (search.running) return [{ label: 'Stop looking', run: search.cancel }];
  if (culprit || !changed || changed.length < 2) return [];
  return [{ label: 'Find the change that breaks it', run: search.start }];
}

/** Sources that are not as they came. */
function editedSlips({ paths, putBack, putting, refused }: EditedSources): Slip[] {
  if (paths.length === 0) return [];
  const [first = ''] = paths;
  return [
    {
      id: 'edited-sources',
      severity: 'mend',
      what:
        paths.length === 1 ? `${first} is not as it came.` : `${paths.length} sources are not as they came.`,
      why: 'A source that was edited out of turn builds into every image, and nobody remembers it. Putting it back keeps what stood there beside your data.',
      evidence: [...paths.slice(0, 6), ...(refused ? [refused] : [])],
      actions: [{ label: 'Put back as it came', run: putBack, running: putting }],
    },
  ];
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
