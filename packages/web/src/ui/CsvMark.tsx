import { Checkbox } from '@mantine/core';
import { markedCsv } from './markedCsv';
import { useWatched } from './useWatched';

/** Asks for the mark; it stands beside whatever leaves as CSV. */
export function CsvMark() {
  return (
    <Checkbox
      size="xs"
      data-screen-only
      label="CSV with a byte-order mark"
      title="For a table program that shows µ and ° wrong"
      checked={useWatched(markedCsv.on)}
      onChange={(event) => markedCsv.set(event.currentTarget.checked)}
    />
  );
}
