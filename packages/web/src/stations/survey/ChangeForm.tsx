import { ActionIcon, Checkbox, NativeSelect, NumberInput, Switch, TextInput } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import type { Change } from '@jolly/core/ripple/change';
import type { Facts } from '@jolly/core/machine/facts';
import type { Landing } from '@jolly/core/machine/landing';
import { CHANGE_TYPES } from '@jolly/core/ripple/changes';
import { MOTOR_AXES } from '@jolly/core/machine/machine';
import { valueAt } from '@jolly/core/tree/path';
import { afterField, changeFields, keyOfLanding } from './changeFields';
import type { ChangeField } from './fieldKinds';
import { causeMark } from './causeMark';
import css from './SurveyStation.module.css';
import { asShown } from '../../ui/asShown';

/** One change of a job: what it is, and what it must tell. */
export function ChangeForm({
  change,
  index,
  facts,
  onChange,
  onRemove,
}: {
  change: Change;
  index: number;
  facts: Facts;
  onChange: (change: Change) => void;
  onRemove: () => void;
}) {
  const { title } = CHANGE_TYPES[change.kind];
  return (
    <fieldset className={css.change} aria-label={title}>
      <div className={css.changeHead}>
        <svg viewBox="-8 -8 16 16" width="16" height="16" aria-hidden="true">
          <path className={css.mark} d={causeMark(index)} />
        </svg>
        <strong>{title}</strong>
        <ActionIcon variant="subtle" aria-label={`Take out: ${title}`} onClick={onRemove}>
          <IconX size={16} />
        </ActionIcon>
      </div>
      <div className={css.fields}>
        {changeFields(change, facts).map((field) => (
          <Field
            key={field.path.join('.')}
            field={field}
            value={valueAt(change, field.path)}
            onValue={(value) => onChange(afterField(change, field.path, value, facts))}
          />
        ))}
        <TextInput
          size="xs"
          label="Because"
          placeholder="in your own words"
          maxLength={300}
          value={change.because ?? ''}
          onChange={(event) => {
            const because = event.currentTarget.value;
            const { because: _old, ...others } = change;
            // A change without its reason is one, too.
            onChange(because ? { ...change, because } : (others as Change));
          }}
        />
      </div>
    </fieldset>
  );
}

interface Filled {
  field: ChangeField;
  value: unknown;
  onValue: (value: unknown) => void;
}

function Field(filled: Filled) {
  const Kind = FIELDS[filled.field.kind];
  return <Kind {...filled} />;
}

function NumberField({ field, value, onValue }: Filled) {
  return (
    <NumberInput
      size="xs"
      label={field.label}
      value={typeof value === 'number' ? value : ''}
      placeholder={field.optional}
      suffix={field.unit ? ` ${field.unit}` : ''}
      allowedDecimalSeparators={['.', ',']}
      hideControls
      onChange={(next) => {
        if (typeof next === 'number') onValue(next);
        else if (next === '' && field.optional !== undefined) onValue(undefined);
      }}
    />
  );
}

function ChoiceField({ field, value, onValue }: Filled) {
  // The only objects a field may hold.
  const shown = typeof value === 'object' ? keyOfLanding(value as Landing) : String(value ?? '');
  const none = field.optional === undefined ? [] : [{ value: '', label: field.optional }];
  const pick = (picked: string) => {
    if (picked === '' && field.optional !== undefined) return onValue(undefined);
    // A choice written by this form.
    if (picked.startsWith('{')) return onValue(JSON.parse(picked) as unknown);
    onValue(field.numeric ? Number(picked) : picked);
  };
  return (
    <NativeSelect
      size="xs"
      label={field.label}
      data={asShown([...none, ...(field.choices ?? [])], shown, 'choose …')}
      value={shown}
      onChange={(event) => pick(event.currentTarget.value)}
    />
  );
}

function FlagField({ field, value, onValue }: Filled) {
  return (
    <Switch
      size="sm"
      label={field.label}
      checked={value === true}
      onChange={(event) => onValue(event.currentTarget.checked)}
    />
  );
}

function AxesField({ field, value, onValue }: Filled) {
  return (
    <Checkbox.Group
      label={field.label}
      size="xs"
      value={Array.isArray(value) ? value.map(String) : []}
      onChange={(next) => next.length > 0 && onValue(next)}
    >
      <div className={css.axes}>
        {MOTOR_AXES.map((axis) => (
          <Checkbox key={axis} size="xs" value={axis} label={axis.toUpperCase()} />
        ))}
      </div>
    </Checkbox.Group>
  );
}

function IdField({ field, value, onValue }: Filled) {
  return (
    <TextInput
      size="xs"
      label={field.label}
      value={String(value ?? '')}
      onChange={(event) => onValue(event.currentTarget.value.toLowerCase().replace(/[^a-z0-9-]/g, ''))}
    />
  );
}

const FIELDS: Readonly<Record<ChangeField['kind'], (filled: Filled) => ReactNode>> = {
  number: NumberField,
  choice: ChoiceField,
  flag: FlagField,
  axes: AxesField,
  text: IdField,
};
