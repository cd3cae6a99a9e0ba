import type { Place, StoredMachine } from '@jolly/contract/machine';
import type { Machine } from '@jolly/core/machine/machine';
import type { Queries } from './db';

interface Row {
  document: Machine;
  version: number;
  changed_at: Date;
  at: Place;
}
const stored = ({ document, version, changed_at, at }: Row): StoredMachine => ({
  machine: document,
  version,
  changedAt: changed_at.toISOString(),
  at,
});
const PUT_AWAY = { shelf: null, archive: 'archived', bin: 'deleted' } as const;
/** What a stored machine is read from. */
const COLUMNS = `document, version, changed_at,
  case put_away when '${PUT_AWAY.archive}' then 'archive' when '${PUT_AWAY.bin}' then 'bin' else 'shelf' end as at`;

/** Machines on the shelf. */
export async function listMachines(db: Queries): Promise<StoredMachine[]> {
  return (await db.query<Row>(`select ${COLUMNS} from machine where put_away is null order by id desc`)).map(
    stored,
  );
}

/** The row of a machine, without what it says. */
export interface MachineRow {
  id: string;
  /** Another with every write of the row, also where its version is the same. */
  mark: string;
  version: number;
  changedAt: string;
}
/** The row with its document, which is not read yet. */
export interface MachineText extends MachineRow {
  text: string;
}

const ROW = 'id, xmin::text || ctid::text as mark, version, changed_at';
const rowOf = <Row extends { changed_at: Date }>({ changed_at, ...row }: Row) => ({
  ...row,
  changedAt: changed_at.toISOString(),
});

/** Rows of the shelf, for whoever may know already what they say. */
export async function listMachineRows(db: Queries): Promise<MachineRow[]> {
  const rows = await db.query<Omit<MachineRow, 'changedAt'> & Pick<Row, 'changed_at'>>(
    `select ${ROW} from machine where put_away is null order by id desc`,
  );
  return rows.map(rowOf);
}

/** What some of them say, by id; one that is gone by now is left out. */
export async function machineTexts(
  db: Queries,
  ids: readonly string[],
): Promise<ReadonlyMap<string, MachineText>> {
  const rows = await db.query<Omit<MachineText, 'changedAt'> & Pick<Row, 'changed_at'>>(
    `select ${ROW}, document::text as text from machine where id = any($1)`,
    [ids],
  );
  return new Map(rows.map(rowOf).map((row) => [row.id, row]));
}

/** Every machine, on the shelf or off it. */
export async function allMachines(db: Queries): Promise<Machine[]> {
  const rows = await db.query<Pick<Row, 'document'>>('select document from machine order by id');
  return rows.map(({ document }) => document);
}

/** Counts the version of a machine up whose file stays as it is. */
export async function countUp(db: Queries, id: string, at: Date): Promise<void> {
  await db.query('update machine set version = version + 1, changed_at = $2 where id = $1', [id, at]);
}

/** Machines that are not on the shelf. */
export async function listPutAway(
  db: Queries,
): Promise<{ id: string; name: string; place: string; at: 'archive' | 'bin' }[]> {
  const rows = await db.query<Row & { at: 'archive' | 'bin' }>(
    `select ${COLUMNS} from machine where put_away is not null order by id`,
  );
  return rows.map(({ document: { id, name, place }, at }) => ({ id, name, place, at }));
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
  const [row] = await db.query<Row>(`select ${COLUMNS} from machine where id = $1`, [id]);
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
    `update machine set document = $2, version = version + 1, changed_at = $4 where id = $1 and version = $3 returning ${COLUMNS}`,
    [machine.id, JSON.stringify(machine), fromVersion, at],
  );
  return row && stored(row);
}
