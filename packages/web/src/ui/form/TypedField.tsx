import type { FormField } from '@jolly/core/tree/formField';
import { TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import css from './FormFields.module.css';
import { useTyped } from '../useTyped';
import { readField, typedOf } from './readField';

/** Kept when it is left or Enter is pressed; refused with its reason where it stands. */
export function TypedField({
  field,
  value,
  onSet,
}: {
  field: FormField;
  value: unknown;
  onSet: (value: unknown) => void;
}) {
  const shown = typedOf(value);
  const { text, setText, leave } = useTyped(shown);
  const [refused, setRefused] = useState<string>();
  useEffect(() => setRefused(undefined), [shown]);
  const keep = () => {
    leave();
    if (text === shown) return setRefused(undefined);
    const read = readField(field, text);
    if ('refused' in read) return setRefused(read.refused);
    setRefused(undefined);
    onSet(read.value);
  };
  return (
    <TextInput
      className={field.is === 'sentence' ? (css.sentence ?? '') : ''}
      size="sm"
      label={`${field.label}${field.unit ? `, ${field.unit}` : ''}${field.optional ? ' (if any)' : ''}`}
      {...(field.how && { description: field.how })}
      error={refused}
      inputMode={field.is === 'number' ? 'decimal' : 'text'}
      value={text}
      maxLength={400}
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
        if (event.key === 'Escape') setText(shown);
      }}
    />
  );
}
