import { SegmentedControl } from '@mantine/core';
import type { Consequence, Finding } from '@jolly/core';
import { useSearchParams } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import { slipOfFinding } from '../../app/docket/slip';
import type { Slip } from '../../app/docket/slip';
import { openDecisions } from '../../app/train/teeth';
import { asDone, useJob } from '../../job/JobProvider';
import { useWorkbench, type Workbench } from '../../workbench/Workbench';
import { BedPlan } from './BedPlan';
import { FactForm } from './FactForm';
import { GeneratedFiles } from './GeneratedFiles';
import { partOfFinding, partOfSetting, PARTS, type PartId } from './parts';
import { SettingRow, valueInWords } from './SettingRow';
import css from './SettingsStation.module.css';

/** Settings by part of the machine: its facts, what follows from them, and why. */
export function SettingsStation() {
  const workbench = useWorkbench();
  const job = useJob();
  const { machine, kit, settings, findings, preview } = workbench;
  const [search, setSearch] = useSearchParams();
  const part = (PARTS.find((entry) => entry.id === search.get('part'))?.id ?? 'frame') as PartId;
  const chosenKey = search.get('key') ?? undefined;
  const view = search.get('view') ?? 'plan';
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
  const options = kit.options.filter((option) => option.part === part);
  const changed = new Map(
    (preview?.settings ?? [])
      .filter((setting) => settings.get(setting.key)?.value !== setting.value)
      .map((setting) => [setting.key, setting]),
  );
  const goTo = (finding: Finding) => {
    const key = finding.subject.kind === 'setting' ? `&key=${finding.subject.id}` : '';
    return `/machines/${machine.id}/settings?part=${partOfFinding(finding, workbench)}${key}`;
  };
  const worst = (id: PartId) =>
    findings.find((finding) => partOfFinding(finding, workbench) === id && finding.severity !== 'note')
      ?.severity;

  return (
    <>
      <main className={css.bench}>
        <nav className={css.parts} aria-label="Parts of the machine">
          {PARTS.map((entry) => (
            <button
              key={entry.id}
              aria-current={entry.id === part ? 'true' : undefined}
              onClick={() => set({ part: entry.id, key: undefined })}
            >
              {entry.title}
              {worst(entry.id) && (
                <b data-severity={worst(entry.id)}>
                  {worst(entry.id) === 'question' ? '?' : worst(entry.id)}
                </b>
              )}
            </button>
          ))}
        </nav>
        <section className={css.middle} aria-label={PARTS.find((entry) => entry.id === part)?.title}>
          <h2>{PARTS.find((entry) => entry.id === part)?.title}</h2>
          <h3>What it is</h3>
          <FactForm key={part} part={part} />
          <h3>What follows</h3>
          <ul className={css.rows}>
            {options.map((option) => (
              <SettingRow
                key={option.key}
                option={option}
                setting={settings.get(option.key)!}
                changed={changed.get(option.key)}
                open={option.key === chosenKey}
                onToggle={() => set({ key: option.key === chosenKey ? undefined : option.key })}
              />
            ))}
          </ul>
        </section>
        <section className={css.side} aria-label="Plan and files">
          <SegmentedControl
            size="xs"
            fullWidth
            aria-label="Second view"
            value={view}
            onChange={(value) => set({ view: value, file: undefined })}
            data={[
              { value: 'plan', label: 'Bed plan' },
              { value: 'files', label: 'Generated file' },
            ]}
          />
          {view === 'plan' ? (
            <BedPlan
              settings={
                preview ? new Map(preview.settings.map((setting) => [setting.key, setting])) : settings
              }
            />
          ) : (
            <GeneratedFiles
              path={search.get('file') ?? undefined}
              onPath={(file) => set({ file })}
              chosenKey={chosenKey ?? options[0]?.key}
              onKey={(key) => set({ key, part: partOfSetting(key, workbench) })}
            />
          )}
        </section>
      </main>
      <Docket
        title="To settle"
        slips={[
          ...findings.map((finding) => slipOfFinding(finding, goTo)),
          ...openDecisions(job).map((entry) =>
            decisionSlip(entry, workbench, () => void job.tick(asDone(entry), true)),
          ),
        ]}
        empty="Nothing to settle. Every check that knows this machine is silent; you can build."
      />
    </>
  );
}

/** A setting that the open job wants somebody to decide. */
function decisionSlip(
  { id, subject, title, from, to, because }: Consequence,
  workbench: Workbench,
  keep: () => void,
): Slip {
  const value = valueInWords(workbench.settings.get(subject)?.value ?? '');
  return {
    id,
    severity: 'question',
    check: subject,
    what: `${title.replace(/\?$/, '')}: ${value}?`,
    why: `The job asks: ${because}.`,
    evidence: [
      `now ${value}`,
      ...(from !== undefined && from !== value ? [`before ${from}`] : []),
      ...(to !== undefined ? [to] : []),
    ],
    actions: [
      { label: `Keep ${value}`, run: keep },
      {
        label: 'Show it',
        go: `/machines/${workbench.machine.id}/settings?part=${partOfSetting(subject, workbench)}&key=${subject}`,
      },
    ],
  };
}
