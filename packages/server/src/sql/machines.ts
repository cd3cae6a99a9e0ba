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

/** Where a machine is: on the shelf, archived, or deleted and not yet replaced. */
export type Place = 'shelf' | 'archive' | 'bin';
const PUT_AWAY = { shelf: null, archive: 'archived', bin: 'deleted' } as const;

/** Machines on the shelf. */
export async function listMachines(db: Queries): Promise<StoredMachine[]> {
  return (
    await db.query<Row>(
      'select document, version, changed_at from machine where put_away is null order by id desc',
    )
  ).map(stored);
}

/** A machine as it lies in the database, its document not read yet. */
export interface MachineText {
  id: string;
  text: string;
  version: number;
  changedAt: string;
}

/** Machines on the shelf, for whoever may know the text already. */
export async function listMachineTexts(db: Queries): Promise<MachineText[]> {
  const rows = await db.query<Omit<MachineText, 'changedAt'> & Pick<Row, 'changed_at'>>(
    'select id, document::text as text, version, changed_at from machine where put_away is null order by id desc',
  );
  return rows.map(({ changed_at, ...row }) => ({ ...row, changedAt: changed_at.toISOString() }));
}

/** Machines that are not on the shelf. */
export async function listPutAway(
  db: Queries,
): Promise<{ id: string; name: string; place: string; at: 'archive' | 'bin' }[]> {
  const rows = await db.query<Row & { put_away: string }>(
    'select document, version, changed_at, put_away from machine where put_away is not null order by id',
  );
  return rows.map(({ document: { id, name, place }, put_away }) => ({
    id,
    name,
    place,
    at: put_away === PUT_AWAY.archive ? 'archive' : 'bin',
  }));
}

export async function setPlace(db: Queries, id: string, at: Place): Promise<void> {
  await db.query('update machine set put_away = $2 where id = $1', [id, PUT_AWAY[at]]);
}

/** Every id a machine has, wherever it is. */
export async function takenIds(db: Queries): Promise<ReadonlySet<string>> {
  return new Set((await db.query<{ id: string }>('select id from machine')).map(({ id }) => id));
}

/** Machines that the demo laid. */
export async function demoIds(db: Queries): Promise<string[]> {
  return (await db.query<{ id: string }>('select id from machine where of_demo order by id')).map(({ id }) => id); // prettier-ignore
}

/** Those of them that are on the shelf. */
export async function demoOnShelf(db: Queries): Promise<string[]> {
  const rows = await db.query<{ id: string }>(
    'select id from machine where of_demo and put_away is null order by id',
  );
  return rows.map(({ id }) => id);
}

export async function markDemo(db: Queries, id: string): Promise<void> {
  await db.query('update machine set of_demo = true where id = $1', [id]);
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
