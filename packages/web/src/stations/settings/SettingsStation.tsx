import { optionOf } from '@jolly/core/kit/optionOf';
import type { Consequence } from '@jolly/core/ripple/consequence';
import type { Finding } from '@jolly/core/finding/finding';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { keptText } from '../../api/api';
import { Docket } from '../../app/docket/Docket';
import { type Slip, slipOfFinding, standingFirst } from '../../app/docket/slip';
import { openDecisions } from '@jolly/session/progress';
import { keptReport } from '../../job/keptReport';
import { asDone, useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { failedSlip } from '../../workbench/useRecordSlips';
import { usePreview, useWorkbench, type Workbench } from '../../workbench/Workbench';
import { DirectionsView } from './DirectionsView';
import { FilesView } from './FilesView';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { MachineFileView } from './MachineFileView';
import { partOfFinding, partOfSetting, PARTS, settingPath } from '@jolly/session/machineParts';
import { PartsView } from './PartsView';
import { PlanView } from './PlanView';
import { SlicerView } from './SlicerView';
import { SectionList } from '../../ui/SectionList';
import css from './SettingsStation.module.css';
import { SETTINGS_VIEWS } from '@jolly/session/settingsViews';

type ViewId = (typeof SETTINGS_VIEWS)[number]['id'];

/** Settings by part of the machine, and other ways to look at them. */
export function SettingsStation() {
  const workbench = useWorkbench();
  const job = useJob();
  const { machine, findings } = workbench;
  const preview = usePreview();
  const [search, setSearch] = useSearchParams();
  const part = PARTS.find((entry) => entry.id === search.get('part'))?.id ?? 'frame';
  const chosenKey = search.get('key') ?? undefined;
  const view: ViewId = SETTINGS_VIEWS.find(({ id }) => id === search.get('view'))?.id ?? 'parts';
  const lost = useLostFromReport();
  const set = (values: Record<string, string | undefined>) =>
    setSearch(
      (before) => {
        for (const [name, value] of Object.entries(values))
          if (value === undefined) before.delete(name);
          else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const goTo = (finding: Finding) => {
    const base = `/machines/${machine.id}/settings`;
    const { kind, id } = finding.subject;
    if (id === 'slicer.start') return `${base}?view=slicer`;
    const key = kind === 'setting' ? `&key=${id}` : '';
    return `${base}?part=${partOfFinding(finding, workbench)}${key}`;
  };
  const shown = preview?.draft ? preview.findings : findings;

  return (
    <>
      <main className={css.bench}>
        <SectionList
          label="Views of the settings"
          entries={SETTINGS_VIEWS}
          at={view}
          leads={(id, now) => ({ ...now, view: id === 'parts' ? undefined : id })}
          lying
        />
        <NotTakenOver>These are the settings of the machine file, without the whole job.</NotTakenOver>
        {view === 'parts' && (
          <PartsView part={part} chosenKey={chosenKey} tool={search.get('tool') ?? undefined} set={set} />
        )}
        {view === 'plan' && <PlanView />}
        {view === 'directions' && <DirectionsView />}
        {view === 'files' && (
          <FilesView
            path={search.get('file') ?? undefined}
            chosenKey={chosenKey}
            onKey={(key) =>
              set({ view: undefined, file: undefined, key, part: partOfSetting(key, workbench) })
            }
          />
        )}
        {view === 'slicer' && <SlicerView />}
        {view === 'file' && <MachineFileView />}
      </main>
      <Docket
        title="To settle"
        slips={[
          ...(lost.failed ? [lost.failed] : []),
          ...standingFirst([...shown, ...lost.findings]).map((finding) => slipOfFinding(finding, goTo)),
          ...openDecisions(job).map((entry) =>
            decisionSlip(entry, workbench, () => job.tick(asDone(entry), true)),
          ),
        ]}
        checking={lost.checking}
        empty="Nothing to settle. Every check that knows this machine is silent; you can build."
      />
    </>
  );
}

/** What the settings report kept for the open job holds, and the machine is about to lose. */
function useLostFromReport(): { findings: Finding[]; checking: boolean; failed?: Slip } {
  const { core, machine, version } = useWorkbench();
  const { stored, wayBack } = useJob();
  const kept = stored && keptReport(wayBack, stored.job.before);
  const lost = useQuery({
    queryKey: ['lost', machine.id, version, stored?.id, kept?.id],
    queryFn:
      stored && kept
        ? async () => core.lostFromReport(stored.job.before, machine, await keptText(machine.id, kept.id))
        : skipToken,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  if (!stored || !kept) return { findings: [], checking: false };
  return {
    findings: lost.data ?? [],
    checking: lost.isPending,
    ...(lost.error && {
      failed: failedSlip('The kept settings report could not be held against this', lost.error),
    }),
  };
}

/** A setting that the open job wants somebody to decide. */
function decisionSlip(
  { id, subject, title, from, to, because }: Consequence,
  workbench: Workbench,
  keep: () => void,
): Slip {
  const option = optionOf(workbench.kit, subject);
  const value = settingInWords(option, workbench.settings.get(subject)?.value ?? '');
  const was = from === undefined ? undefined : settingInWords(option, from);
  return {
    id,
    severity: 'question',
    check: subject,
    what: `${title.replace(/\?$/, '')}: ${value}?`,
    why: `The job asks: ${because}.`,
    evidence: [
      `now ${value}`,
      ...(was !== undefined && was !== value ? [`before ${was}`] : []),
      ...(to !== undefined ? [to] : []),
    ],
    actions: [
      { label: `Keep ${value}`, run: keep },
      {
        label: 'Show it',
        go: settingPath(subject, workbench),
      },
    ],
  };
}
