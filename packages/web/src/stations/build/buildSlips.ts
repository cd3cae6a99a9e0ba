import { type Build } from '@jolly/contract/endpoints/builds';
import { fitFindings } from '@jolly/core/build/fitFindings';
import type { Finding } from '@jolly/core/finding/finding';
import { upToDate } from '@jolly/session/newestBuild';
import { partOfFinding, partOfSetting } from '@jolly/session/machineParts';
import { type Slip, slipOfFinding } from '../../app/docket/slip';
import type { Workbench } from '../../workbench/Workbench';

/** What there is to settle at Build. */
export function slips(
  workbench: Workbench,
  newest: Build | undefined,
  done: Extract<Build, { state: 'done' }> | undefined,
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
