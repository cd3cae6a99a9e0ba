import type { StoredEdit } from '@jolly/contract/machine';
import type { Machine } from '@jolly/core/machine/machine';
import type { Queries } from './db';

export interface EditStates {
  before: Machine;
  after: Machine;
}

/** How many changes are kept for each machine. */
const KEPT = 300;

interface Row {
  id: string | number;
  label: string;
  version: number;
  at: Date;
  undone: boolean;
}
const stored = (row: Row): StoredEdit => ({
  id: Number(row.id),
  label: row.label,
  version: row.version,
  at: row.at.toISOString(),
  undone: row.undone,
});

/** Adds a change; what was undone before it can no longer be done again. */
export async function addEdit(
  db: Queries,
  machine: string,
  edit: EditStates & { label: string; version: number; at: Date },
): Promise<void> {
  await db.query('delete from machine_edit where machine = $1 and undone', [machine]);
  await db.query(
    'insert into machine_edit (machine, label, before, after, version, at) values ($1, $2, $3, $4, $5, $6)',
    [machine, edit.label, JSON.stringify(edit.before), JSON.stringify(edit.after), edit.version, edit.at],
  );
  await db.query(
    `delete from machine_edit where machine = $1 and id not in
       (select id from machine_edit where machine = $1 order by id desc limit ${KEPT})`,
    [machine],
  );
}

/** The changes of a machine, newest first. */
export async function listEdits(db: Queries, machine: string): Promise<StoredEdit[]> {
  return (
    await db.query<Row>(
      'select id, label, version, at, undone from machine_edit where machine = $1 order by id desc',
      [machine],
    )
  ).map(stored);
}

/** A change with the states before and after it. */
export async function findEdit(
  db: Queries,
  machine: string,
  id: number,
): Promise<(StoredEdit & EditStates) | undefined> {
  const [row] = await db.query<Row & EditStates>(
    'select id, label, version, at, undone, before, after from machine_edit where machine = $1 and id = $2',
    [machine, id],
  );
  return row && { ...stored(row), before: row.before, after: row.after };
}

/** The change that undo takes back, or that redo makes again: the next one, or the one that led to a version. */
export async function nextEdit(
  db: Queries,
  machine: string,
  way: 'undo' | 'redo',
  version?: number,
): Promise<(StoredEdit & EditStates) | undefined> {
  const [row] = await db.query<{ id: string | number }>(
    `select id from machine_edit
     where machine = $1 and undone = $2 and ($3::bigint is null or version = $3)
     order by id ${way === 'undo' ? 'desc' : 'asc'} limit 1`,
    [machine, way === 'redo', version ?? null],
  );
  return row && findEdit(db, machine, Number(row.id));
}

export async function setUndone(db: Queries, id: number, undone: boolean): Promise<void> {
  await db.query('update machine_edit set undone = $2 where id = $1', [id, undone]);
}
