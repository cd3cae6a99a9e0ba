import { NativeSelect, type NativeSelectProps } from '@mantine/core';
import { asShown, type ListChoice } from './asShown';
import { KEEP_HINT, useKeptChoice } from './useKeptChoice';

/** A list to choose from whose choice is saved: arrow keys go through it without saving at each press. */
export function KeptSelect({
  value,
  onKeep,
  description,
  data,
  ...rest
}: Omit<NativeSelectProps, 'value' | 'onChange' | 'onKeyDown' | 'onBlur' | 'onPointerDown' | 'data'> & {
  value: string;
  data: readonly ListChoice[];
  onKeep: (chosen: string) => void;
}) {
  const { shown, passing, choose, handlers } = useKeptChoice(value, onKeep);
  return (
    <NativeSelect
      {...rest}
      {...handlers}
      data={asShown(data, shown, 'not known')}
      description={passing === undefined ? description : KEEP_HINT}
      value={shown}
      onChange={(event) => choose(event.currentTarget.value)}
    />
  );
}
