import { TextInput } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { openParts } from '@jolly/core/describe/openParts';
import { partFor } from '@jolly/core/machine/facts';
import { touchesWithNozzle } from '@jolly/core/settings/probeAt';
import { useWorkbench, type Workbench } from '../../workbench/Workbench';
import { type FactField, factId, factsOf } from '@jolly/session/machineFacts';
import css from './SettingsStation.module.css';
import type { PartId } from '@jolly/session/machineParts';
import { readNumber } from '../../ui/readNumber';
import { KeptSelect } from '../../ui/KeptSelect';
import { useAct } from '../../ui/useAct';

const NO_FACTS: Partial<Record<PartId, string>> = {
  map: 'The map follows from probe, plate and travel.',
  fans: 'Fans, servos and what they sit on are found at Wiring.',
  filament: 'A filament sensor is added at Wiring.',
  display: 'A display is added at Wiring.',
};

/** What a part of the machine is: facts to be typed in; the settings follow from them. */
export function FactForm({ part }: { part: PartId }) {
  const workbench = useWorkbench();
  const fields = factsOf(part, workbench);
  if (fields.length === 0) return <p className="soft">{NO_FACTS[part] ?? missing(part, workbench)}</p>;
  return (
    <div className={css.facts}>
      {fields.map((field) => (
        <Fact key={field.path.join('.')} field={field} />
      ))}
    </div>
  );
}

/** Why there are no facts of a part: nobody knows it, or where it hangs, or there is none. */
function missing(part: PartId, { machine, facts }: Pick<Workbench, 'machine' | 'facts'>): string {
  const open = openParts(machine).filter(({ id }) => id === part || id.startsWith(`${part}.`));
  if (open.length > 0) return `Not known yet: ${open.map(({ label }) => label).join('; ')}.`;
  if (part !== 'probe' || !partFor(facts, 'probe', 'z')) return 'This machine has no such part.';
  return touchesWithNozzle(facts)
    ? 'The nozzle itself is the probe: nothing hangs beside it.'
    : 'Where the probe hangs is not known yet. Calibrate measures it.';
}

function Fact({ field }: { field: FactField }) {
  const { change, tryOut, dropPreview, settled } = useWorkbench();
  const shown = field.value === undefined ? '' : String(field.value);
  const [text, setText] = useState(shown);
  const { refused, act, forget } = useAct();
  /** What was given to be saved and did not come back as a new value yet. */
  const sent = useRef<string>(undefined);
  // Also where this field lost to another window; not at every save, for somebody may type on meanwhile.
  useEffect(() => {
    setText(shown);
    forget();
    sent.current = undefined;
  }, [shown, settled, forget]);

  const commit = async (raw: string) => {
    // Enter saves, and leaving the field right after saves no second time.
    if (raw === sent.current) return;
    if (raw.trim() === shown) {
      dropPreview();
      return forget();
    }
    const saved = await act(async () => {
      const read = readField(field, raw);
      if ('refused' in read) return read.refused;
      sent.current = raw;
      const to = field.kind === 'number' ? read.value : raw.trim();
      const unit = to === undefined ? undefined : field.unit;
      const words = `${inWords(field, shown)} → ${inWords(field, to)} ${unit ?? ''}`.trim();
      return change(`${field.label}: ${words}`, [{ path: field.path, value: read.value }]);
    });
    // What was refused may be given once more.
    if (!saved) sent.current = undefined;
  };

  if (field.kind === 'choice') {
    return (
      <KeptSelect
        size="xs"
        label={field.label}
        data={[
          ...(field.empty === undefined ? [] : [{ value: '', label: field.empty }]),
          ...(field.choices ?? []),
        ]}
        value={shown}
        error={refused}
        data-find={factId(field)}
        onKeep={(chosen) => void commit(chosen)}
      />
    );
  }
  return (
    <TextInput
      size="xs"
      label={field.label}
      value={text}
      error={refused}
      data-find={factId(field)}
      placeholder={field.empty ?? ''}
      inputMode={field.kind === 'number' ? 'decimal' : 'text'}
      rightSection={field.unit ? <span className={css.unit}>{field.unit}</span> : undefined}
      rightSectionWidth={field.unit ? 14 + 8 * field.unit.length : 0}
      onChange={(event) => {
        const raw = event.currentTarget.value;
        setText(raw);
        const read = readField(field, raw);
        // What would follow is shown with every key; it is saved when the field is left.
        if ('value' in read) tryOut(field.label, [{ path: field.path, value: read.value }]);
        else dropPreview();
      }}
      onBlur={(event) => void commit(event.currentTarget.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void commit(event.currentTarget.value);
        if (event.key === 'Escape') {
          setText(shown);
          dropPreview();
        }
      }}
    />
  );
}

/** A value of a field as the logbook tells it: a choice by its label. */
function inWords({ choices }: FactField, value: unknown): string {
  if (value === undefined || value === '') return 'unknown';
  return choices?.find((one) => one.value === value)?.label ?? String(value);
}

/** What a text means for a field: a value for the machine file, or why not. */
function readField(field: FactField, raw: string): { value: unknown } | { refused: string } {
  if (raw.trim() === '') return field.empty ? { value: undefined } : { refused: `${field.label} is needed` };
  if (field.kind === 'text') return { value: raw.trim() };
  if (field.kind === 'choice') return { value: field.read ? field.read(raw) : raw };
  const value = readNumber(raw, field.unit);
  return value === undefined
    ? { refused: `“${raw.trim()}” is no number${field.unit ? ` of ${field.unit}` : ''}` }
    : { value };
}
