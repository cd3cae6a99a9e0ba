import { Button } from '@mantine/core';
import { withMark } from '@jolly/core/text/csv';
import { CsvMark } from './CsvMark';
import { markedCsv } from './markedCsv';
import { download } from './download';

/** Offers a table as CSV, with a byte-order mark for whoever asks for it. */
export function SaveCsv({ name, rows, disabled = false }: { name: string; rows: () => string | Promise<string>; disabled?: boolean }) {
  const save = async () => {
    const text = await rows();
    download(name, 'text/csv', markedCsv.on.now() ? withMark(text) : text);
  };
  return (
    <>
      <Button size="xs" variant="default" disabled={disabled} onClick={() => void save()}>
        Save as CSV
      </Button>
      <CsvMark />
    </>
  );
} // prettier-ignore
