import { ENTRY_KINDS, type EntryKind } from '@jolly/contract/endpoints/machines';
import { type Timeline, TIMELINE_PAGE } from '@jolly/contract/endpoints/record';
import { Refusal } from '@jolly/contract/refusal';
import { recordAsMarkdown } from '@jolly/core/formats/recordSheet';
import { csv, withMark } from '@jolly/core/text/csv';
import { oneOf } from '@jolly/core/tree/keysOf';
import type { Within } from '../context';
import { listCalibrations } from '../sql/calibrations';
import { everyEntry, findEntries } from '../sql/entries';
import { theMachine } from './known';

interface Asked {
  kinds?: string;
  words?: string;
  from?: string;
}

/** A page of the logbook, with what it is filtered by. */
export async function timeline(
  context: Within,
  id: string,
  { kinds, words, from }: Asked,
): Promise<Timeline> {
  await theMachine(context, id);
  return findEntries(context.db, id, {
    ...(kinds !== undefined && { kinds: kinds.split(',').map(kindNamed) }),
    words: (words ?? '').split(/\s+/).filter(Boolean),
    ...(from !== undefined && { before: Number(from) }),
    limit: TIMELINE_PAGE,
  });
}

function kindNamed(name: string): EntryKind {
  const kind = oneOf(ENTRY_KINDS, name);
  if (!kind)
    throw new Refusal(
      'bad-value',
      `"kinds" must be of ${ENTRY_KINDS.join(', ')}; "${name}" is none of them`,
      {
        path: 'kinds',
      },
    );
  return kind;
}

const CSV_HEAD = ['at', 'kind', 'what', 'figure', 'value', 'unit'];

/** The whole record of a machine as a file; CSV has a row for each entry, and one for each number that was measured. */
export async function recordFile(
  context: Within,
  id: string,
  { format, marked }: { format: 'csv' | 'md'; marked: boolean },
): Promise<{ type: string; text: string; name: string }> {
  const { machine } = await theMachine(context, id);
  const entries = await everyEntry(context.db, id);
  const measured = await listCalibrations(context.db, id, 100_000);
  const day = context.now().toISOString().slice(0, 10);
  if (format === 'md')
    return {
      type: 'text/markdown',
      text: recordAsMarkdown(machine.name, day, { entries, measured }),
      name: `${id}-record.md`,
    };
  const rows = [
    ...entries.map(({ at, kind, summary }) => ({ at, cells: [at, kind, summary, '', '', ''] })),
    ...measured.flatMap(({ at, words, figures }) =>
      figures.map(({ label, value, unit }) => ({
        at,
        cells: [at, 'figure', words, label, String(value), unit],
      })),
    ),
  ].sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0));
  const text = csv([CSV_HEAD, ...rows.map(({ cells }) => cells)]);
  return {
    type: 'text/csv',
    text: marked ? withMark(text) : text,
    name: `${id}-record.csv`,
  };
}
