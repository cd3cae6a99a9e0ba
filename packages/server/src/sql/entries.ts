import type { Entry, EntryKind } from '@jolly/contract/endpoints/machines';
import type { Queries } from './db';

export async function addEntry(
  db: Queries,
  machine: string,
  entry: { at: Date; kind: EntryKind; summary: string; detail?: Entry['detail'] },
): Promise<void> {
  await db.query('insert into entry (machine, at, kind, summary, detail) values ($1, $2, $3, $4, $5)', [
    machine,
    entry.at,
    entry.kind,
    entry.summary,
    JSON.stringify(entry.detail ?? {}),
  ]);
}

export async function listEntries(db: Queries, machine: string, limit: number): Promise<Entry[]> {
  const rows = await db.query<{
    id: string | number;
    at: Date;
    kind: EntryKind;
    summary: string;
    detail: Entry['detail'];
  }>(
    'select id, at, kind, summary, detail from entry where machine = $1 order by at desc, id desc limit $2',
    [machine, limit],
  );
  return rows.map((row) => ({ ...row, id: Number(row.id), at: row.at.toISOString() }));
}
