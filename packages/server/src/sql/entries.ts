import type { Db } from './db';

export const ENTRY_KINDS = [
  'note',
  'job',
  'kept',
  'settings',
  'build',
  'flash',
  'proof',
  'calibration',
] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** A line in a machine's logbook; never changed once written. */
export interface Entry {
  id: number;
  at: string;
  kind: EntryKind;
  summary: string;
  detail: Record<string, unknown>;
}

export async function addEntry(
  db: Db,
  machine: string,
  entry: { at: Date; kind: EntryKind; summary: string; detail?: Record<string, unknown> },
): Promise<void> {
  await db.query('insert into entry (machine, at, kind, summary, detail) values ($1, $2, $3, $4, $5)', [
    machine,
    entry.at,
    entry.kind,
    entry.summary,
    JSON.stringify(entry.detail ?? {}),
  ]);
}

export async function listEntries(db: Db, machine: string, limit: number): Promise<Entry[]> {
  const rows = await db.query<{
    id: string | number;
    at: Date;
    kind: EntryKind;
    summary: string;
    detail: Record<string, unknown>;
  }>(
    'select id, at, kind, summary, detail from entry where machine = $1 order by at desc, id desc limit $2',
    [machine, limit],
  );
  return rows.map((row) => ({ ...row, id: Number(row.id), at: row.at.toISOString() }));
}
