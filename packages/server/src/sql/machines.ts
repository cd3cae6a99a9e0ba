import type { StoredMachine } from '@jolly/contract/machine';
import type { Machine } from '@jolly/core/machine/machine';
import type { Queries } from './db';

interface Row {
  document: Machine;
  version: number;
  changed_at: Date;
}
const stored = (row: Row): StoredMachine => ({
  machine: row.document,
  version: row.version,
  changedAt: row.changed_at.toISOString(),
});

export async function listMachines(db: Queries): Promise<StoredMachine[]> {
  return (await db.query<Row>('select document, version, changed_at from machine order by id desc')).map(
    stored,
  );
}

export async function findMachine(db: Queries, id: string): Promise<StoredMachine | undefined> {
  const [row] = await db.query<Row>('select document, version, changed_at from machine where id = $1', [id]);
  return row && stored(row);
}

/** Adds a machine; false when its id is taken. */
export async function addMachine(db: Queries, machine: Machine, at: Date): Promise<boolean> {
  const rows = await db.query(
    'insert into machine (id, version, document, changed_at) values ($1, 1, $2, $3) on conflict do nothing returning id',
    [machine.id, JSON.stringify(machine), at],
  );
  return rows.length === 1;
}

/** Saves a machine over the version it was made from; undefined when that is no longer the newest. */
export async function saveMachine(
  db: Queries,
  machine: Machine,
  fromVersion: number,
  at: Date,
): Promise<StoredMachine | undefined> {
  const [row] = await db.query<Row>(
    'update machine set document = $2, version = version + 1, changed_at = $4 where id = $1 and version = $3 returning document, version, changed_at',
    [machine.id, JSON.stringify(machine), fromVersion, at],
  );
  return row && stored(row);
}
