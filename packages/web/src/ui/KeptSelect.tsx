import { NativeSelect, type NativeSelectProps } from '@mantine/core';
import { KEEP_HINT, useKeptChoice } from './useKeptChoice';

/** A list to choose from whose choice is saved: arrow keys go through it without saving at each press. */
export function KeptSelect({
  value,
  onKeep,
  description,
  ...rest
}: Omit<NativeSelectProps, 'value' | 'onChange' | 'onKeyDown' | 'onBlur' | 'onPointerDown'> & {
  value: string;
  onKeep: (chosen: string) => void;
}) {
  const { shown, passing, choose, handlers } = useKeptChoice(value, onKeep);
  return (
    <NativeSelect
      {...rest}
      {...handlers}
      description={passing === undefined ? description : KEEP_HINT}
      value={shown}
      onChange={(event) => choose(event.currentTarget.value)}
    />
  );
}
