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

/** Takes out a note that a person wrote; false where there is none of that number. */
export async function dropOwnNote(db: Queries, machine: string, id: number): Promise<boolean> {
  const gone = await db.query(
    `delete from entry where machine = $1 and id = $2 and kind = 'note' and detail->>'own' = 'true' returning id`,
    [machine, id],
  );
  return gone.length > 0;
}

/** Takes out the line of a measurement, which was written in the same moment. */
export async function dropMeasured(
  db: Queries,
  machine: string,
  { at, words }: { at: string; words: string },
): Promise<Entry['detail'] | undefined> {
  const [row] = await db.query<Pick<Row, 'detail'>>(
    `delete from entry where id = (
       select id from entry where machine = $1 and kind = 'calibration' and at = $2 and position($3 in summary) > 0
       order by id desc limit 1) returning detail`,
    [machine, at, words],
  );
  return row?.detail;
}

interface Row {
  id: string | number;
  at: Date;
  kind: EntryKind;
  summary: string;
  detail: Entry['detail'];
}
const stored = (row: Row): Entry => ({ ...row, id: Number(row.id), at: row.at.toISOString() });

export async function listEntries(db: Queries, machine: string, limit: number): Promise<Entry[]> {
  const rows = await db.query<Row>(
    'select id, at, kind, summary, detail from entry where machine = $1 order by at desc, id desc limit $2',
    [machine, limit],
  );
  return rows.map(stored);
}

/** Entries of some kinds whose line holds all of some words, from just before an entry on, newest first; and how many there are. */
export async function findEntries(
  db: Queries,
  machine: string,
  { kinds, words, before, limit }: { kinds?: EntryKind[]; words: string[]; before?: number; limit: number },
): Promise<{ entries: Entry[]; total: number }> {
  const values: unknown[] = [machine];
  const given = (value: unknown) => `$${values.push(value)}`;
  const like = words.map((word) => `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`);
  // What is not asked for is not compared line by line. Words are lowered by the database, as the lines are, and once.
  const where = [
    'machine = $1',
    ...(kinds ? [`kind = any(${given(kinds)}::text[])`] : []),
    ...(like.length > 0
      ? [`searched like all((select lower(${given(like)}::text[]::text)::text[])::text[])`]
      : []),
  ].join(' and ');
  const filters = [...values];
  const from =
    before === undefined ? '' : `and (at, id) < (select at, id from entry where id = ${given(before)})`;
  const rows = await db.query<Row>(
    `select id, at, kind, summary, detail from entry where ${where} ${from}
     order by at desc, id desc limit ${given(limit)}`,
    values,
  );
  const entries = rows.map(stored);
  // A first page that is not full is all there is.
  if (before === undefined && rows.length < limit) return { entries, total: rows.length };
  const [counted] = await db.query<{ total: string | number }>(
    `select count(*) as total from entry where ${where}`,
    filters,
  );
  return { entries, total: Number(counted?.total ?? 0) };
}

/** When a step of bring-up was last tested, with whatever image, by machine. */
export async function lastProofs(db: Queries): Promise<ReadonlyMap<string, string>> {
  const rows = await db.query<Pick<Row, 'at'> & { machine: string }>(
    `select machine, max(at) as at from entry where kind = 'proof' group by machine`,
  );
  return new Map(rows.map(({ machine, at }) => [machine, at.toISOString()]));
}

/** The whole logbook of a machine, newest first. */
export async function everyEntry(db: Queries, machine: string): Promise<Entry[]> {
  return (
    await db.query<Row>(
      'select id, at, kind, summary, detail from entry where machine = $1 order by at desc, id desc',
      [machine],
    )
  ).map(stored);
}
