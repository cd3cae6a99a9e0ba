import { TextInput } from '@mantine/core';
import type { Sought } from './useSought';

/** The field in which something is sought in a list, and how much of it is shown. */
export function SoughtIn({
  label,
  placeholder,
  sought: { words, seek },
  shown,
  of,
}: {
  label: string;
  placeholder?: string;
  sought: Sought;
  shown: number;
  of: number;
}) {
  return (
    <>
      <TextInput
        size="xs"
        type="search"
        aria-label={label}
        placeholder={placeholder ?? label}
        value={words}
        onChange={(event) => seek(event.currentTarget.value)}
      />
      <span className="soft" role="status">
        {shown} of {of}
      </span>
    </>
  );
}
