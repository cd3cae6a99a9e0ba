import { skipToken, useQuery } from '@tanstack/react-query';
import type { Option } from '@jolly/core/kit/kit';
import type { Setting, Settings } from '@jolly/core/settings/setting';
import { isOn } from '@jolly/core/settings/understands';
import { resetEdit } from '@jolly/core/machine/edit';
import { useMemo } from 'react';
import { useKeys } from '../../app/keys/useKeys';
import { useJob } from '../../job/JobProvider';
import { OpenTool } from '../../tools/OpenTool';
import { ToolChoice } from '../../tools/ToolChoice';
import { toolsFor } from '../../tools/tools';
import { usePreview, useWorkbench } from '../../workbench/Workbench';
import { BedPlan } from './BedPlan';
import { FactForm } from './FactForm';
import { partOfFinding, PARTS, type PartId } from '@jolly/session/machineParts';
import { SettingRow } from './SettingRow';
import { SectionList } from '../../ui/SectionList';
import { SoughtIn } from '../../ui/SoughtIn';
import { useSought } from '../../ui/useSought';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SettingsStation.module.css';

/** Parts beside which the plan says something. */
const PLANNED: readonly PartId[] = ['frame', 'probe', 'map'];

/** So many settings are seen at a glance. */
const FEW = 8;

/** What the machine had before the open job, by key; empty without one. */
function useOldSettings(): ReadonlyMap<string, Setting> {
  const { core, facts } = useWorkbench();
  const { stored } = useJob();
  const old = useQuery({
    queryKey: ['old-settings', stored?.id, facts.catalogue.boards.length],
    queryFn: stored ? () => core.settingsOf(stored.job.before) : skipToken,
    meta: { what: 'what the old machine had' },
    staleTime: Infinity,
  });
  return useMemo(
    () => new Map((stored ? (old.data ?? []) : []).map((setting) => [setting.key, setting])),
    [stored, old.data],
  );
}

/** Whether a setting decides anything here, or somebody gave it a value all the same. */
const counts = ({ key, by }: Option, settings: Settings): boolean =>
  by === undefined || isOn(settings, by) || !FOLLOWS.has(settings.get(key)?.source);
const FOLLOWS: ReadonlySet<Setting['source'] | undefined> = new Set(['kit', 'derived', undefined]);

/** Settings by part of the machine: its facts, what follows from them, and tools to find them out. */
export function PartsView({
  part,
  chosenKey,
  tool,
  set,
}: {
  part: PartId;
  chosenKey: string | undefined;
  tool: string | undefined;
  set: Set;
}) {
  const { settings } = useWorkbench();
  const preview = usePreview();
  const laid = toolsFor(part).find(({ id }) => id === tool);
  const beside = laid !== undefined || PLANNED.includes(part);
  const shown = useMemo(
    () => (preview ? new Map(preview.settings.map((setting) => [setting.key, setting])) : settings),
    [preview, settings],
  );
  const title = PARTS.find((entry) => entry.id === part)?.title;
  return (
    <div className={css.partsView} data-side={beside}>
      <PartList part={part} />
      <section className={css.middle} aria-label={title}>
        <h2>{title}</h2>
        <ToolChoice part={part} chosen={laid?.id} choose={(id) => set({ tool: id })} />
        <h3>What it is</h3>
        <FactForm key={part} part={part} />
        <Following part={part} chosenKey={chosenKey} shown={shown} set={set} />
      </section>
      {beside && (
        <section className={css.side} aria-label={laid ? 'Tool' : 'Plan'}>
          {laid ? (
            <OpenTool
              key={`${part} ${laid.id}`}
              tool={laid}
              part={part}
              putAway={() => set({ tool: undefined })}
            />
          ) : (
            <BedPlan settings={shown} />
          )}
        </section>
      )}
    </div>
  );
}

type Set = (values: Record<string, string | undefined>) => void;

/** The parts of the machine, each with the most serious of what is found at it. */
function PartList({ part }: { part: PartId }) {
  const workbench = useWorkbench();
  const findings = usePreview()?.findings ?? workbench.findings;
  const worst = (id: PartId) =>
    findings.find(
      (finding) =>
        partOfFinding(finding, workbench) === id &&
        finding.severity !== 'note' &&
        finding.waived === undefined,
    )?.severity;
  return (
    <SectionList
      label="Parts of the machine"
      entries={PARTS.map(({ id, title }) => {
        const severity = worst(id);
        return {
          id,
          title,
          mark: severity === 'question' ? '?' : severity,
          tone: severity === 'stop' ? 'bad' : undefined,
        };
      })}
      at={part}
      leads={(id, now) => ({ ...now, part: id, key: undefined, tool: undefined })}
    />
  );
}

/** The settings that follow from a part; many of them can be searched. */
function Following({
  part,
  chosenKey,
  shown,
  set,
}: {
  part: PartId;
  chosenKey: string | undefined;
  /** As they would be with the remedy that is looked at. */
  shown: Settings;
  set: Set;
}) {
  const { kit, settings, change } = useWorkbench();
  const old = useOldSettings();
  const options = kit.options.filter(
    (option) => option.part === part && (option.key === chosenKey || counts(option, settings)),
  );
  const sought = useSought(`settings:${part}`);
  const many = options.length > FEW;
  const listed = options.filter(({ key, label }) => !many || key === chosenKey || sought.finds(key, label));
  const { refused, act } = useAct();
  useKeys({
    letDecide: () => {
      const option = options.find(({ key }) => key === chosenKey);
      if (option && settings.get(option.key)?.hidden)
        void act(() => change(`${option.label}: let the facts decide`, [resetEdit(option.key)]));
    },
  });
  return (
    <>
      <div className={css.follows}>
        <h3>What follows</h3>
        {many && (
          <SoughtIn
            label="Find among these settings"
            placeholder="find: name or key"
            sought={sought}
            shown={listed.length}
            of={options.length}
          />
        )}
      </div>
      <Refused why={refused} />
      <ul className={css.rows}>
        {listed.map((option) => {
          const setting = settings.get(option.key);
          if (!setting) return null;
          const then = shown.get(option.key);
          return (
            <SettingRow
              key={option.key}
              option={option}
              setting={setting}
              changed={then && then.value !== setting.value ? then : undefined}
              old={old.get(option.key)}
              open={option.key === chosenKey}
              onToggle={() => set({ key: option.key === chosenKey ? undefined : option.key })}
            />
          );
        })}
      </ul>
    </>
  );
}
