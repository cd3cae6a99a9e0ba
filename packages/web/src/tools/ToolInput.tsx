import { NativeSelect, Textarea, TextInput } from '@mantine/core';
import type { ToolField } from './tool';
import css from './Tool.module.css';
import { asShown } from '../ui/asShown';

/** One thing to type in, to paste or to choose for a tool. */
export function ToolInput({
  field: { key, label, unit, choices, lines, example },
  value,
  set,
}: {
  field: ToolField;
  value: string;
  set: (key: string, value: string) => void;
}) {
  const common = { size: 'xs', label, value } as const;
  if (choices)
    return (
      <NativeSelect
        {...common}
        data={asShown(choices, value, 'choose …')}
        onChange={(event) => set(key, event.currentTarget.value)}
      />
    );
  if (lines)
    return (
      <Textarea
        {...common}
        className={css.lines}
        placeholder={example}
        autosize
        minRows={3}
        maxRows={8}
        onChange={(event) => set(key, event.currentTarget.value)}
      />
    );
  return (
    <TextInput
      {...common}
      placeholder={example}
      inputMode="decimal"
      rightSection={unit && <span className={css.unit}>{unit}</span>}
      rightSectionWidth={unit ? 14 + 8 * unit.length : 0}
      onChange={(event) => set(key, event.currentTarget.value)}
    />
  );
}
