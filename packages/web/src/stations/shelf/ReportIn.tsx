import { Button, FileButton, Textarea } from '@mantine/core';
import type { api } from '../../api/api';
import css from './Shelf.module.css';

/** A machine begins from what its old board reports: pasted, or from a file. */
export function ReportIn({
  report,
  setReport,
  busy,
  begin,
}: {
  report: string;
  setReport: (text: string) => void;
  busy: boolean;
  begin: (from: Parameters<typeof api.beginDescription>[0]) => void;
}) {
  return (
    <div className={css.report}>
      <Textarea
        label="Settings report of the old board"
        description="Connect a terminal to the old board, send M503, and paste here what it answers. Or open a file with it."
        autosize
        minRows={5}
        maxRows={12}
        value={report}
        onChange={(event) => setReport(event.currentTarget.value)}
      />
      <div className="row">
        <Button
          disabled={busy || report.trim() === ''}
          onClick={() => begin({ from: 'report', text: report })}
        >
          Begin from this report
        </Button>
        <FileButton
          onChange={(file) => void file?.text().then(setReport)}
          inputProps={{ 'aria-label': 'Report file' }}
        >
          {(props) => (
            <Button variant="default" {...props}>
              Open a report file
            </Button>
          )}
        </FileButton>
      </div>
    </div>
  );
}
