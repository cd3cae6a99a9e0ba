import { whyOf } from '@jolly/core/text/whyOf';
import { PGlite, type Transaction } from '@electric-sql/pglite';
import { access, constants, mkdir, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { DataProblem } from '../data/dataProblem';
import { copyTree, syncFolder, syncTree } from '../files/durable';
import { SYNCED, SyncedFiles } from './syncedFiles';

/** What may be asked of a database anywhere; inside a transaction, all that can be asked. */
export interface Queries {
  query<Row>(sql: string, values?: unknown[]): Promise<Row[]>;
  /**
   * Another number as soon as anything may have been written, which is any statement but a plain `select`.
   * Missing inside a transaction: what is read there may never come to stay.
   */
  writes?(): number;
}

/** The little that the product asks of a database, so that another PostgreSQL can stand behind it. */
export interface Db extends Queries {
  /** Runs all or nothing; on the disk when it resolves. */
  transaction<T>(run: (inside: Queries) => Promise<T>): Promise<T>;
  /** Everything in the database as one compressed archive, between two transactions. */
  archive(): Promise<Uint8Array>;
  close(): Promise<void>;
}

/** The row of a statement that always answers one. */
export function one<Row>(row: Row | undefined): Row {
  if (row === undefined) throw new Error('the database answered no row where it must answer one');
  return row;
}

export interface OpenDb {
  folder: string;
  migrations: string;
  /** An initialised empty database to copy: initialising from nothing takes seven seconds. */
  template?: string;
  /** Called with a database that has pending migrations, before they run. */
  beforeMigration?: (db: Db) => Promise<void>;
}

const queries = (connection: PGlite | Transaction): Queries => ({
  query: async <Row>(sql: string, values: unknown[] = []) => (await connection.query<Row>(sql, values)).rows,
});

const over = (lite: PGlite): Db => {
  const { query } = queries(lite);
  let writes = 0;
  // Counted when it begins and when it ends: what is read in between is of neither state for certain.
  const writing = async <T>(run: () => Promise<T>): Promise<T> => {
    writes += 1;
    return run().finally(() => (writes += 1));
  };
  return {
    query: (sql, values) =>
      /^\s*select\b/i.test(sql) ? query(sql, values) : writing(() => query(sql, values)),
    writes: () => writes,
    transaction: (run) => writing(() => lite.transaction((inside) => run(queries(inside)))),
    archive: async () => new Uint8Array(await (await lite.dumpDataDir('gzip')).arrayBuffer()),
    close: () => lite.close(),
  };
};

/**
 * Opens the database in a folder; a new one is copied from the template. Pending migrations run in one transaction.
 * @throws {DataProblem} when what is there is damaged or cannot be written; nothing is laid over it
 */
export async function openDb({ folder, migrations, template, beforeMigration }: OpenDb): Promise<Db> {
  await mkdir(dirname(folder), { recursive: true });
  if (!(await exists(folder))) await layNew(folder, template);
  await refuseDamaged(folder);
  const lite = await openLite(folder);
  try {
    const db = over(lite);
    await migrate(lite, migrations, async () => beforeMigration?.(db));
    return db;
  } catch (error) {
    await lite.close();
    throw error;
  }
}

/** Opens the files of a database, or an archive of one laid into an empty folder. */
export async function openLite(folder: string, archive?: Blob): Promise<PGlite> {
  const starting = PGlite.create({
    fs: new SyncedFiles(folder),
    startParams: SYNCED(PGlite.defaultStartParams),
    ...(archive && { loadDataDir: archive }),
  });
  return starting.catch((error: unknown) => {
    throw new DataProblem(
      `the database in ${folder} does not open (${whyOf(error)}): ./jolly check-data says more, and can fall back on a copy`,
    );
  });
}

/** The folder appears whole or not at all. */
async function layNew(folder: string, template: string | undefined): Promise<void> {
  const partial = `${folder}.part`;
  await rm(partial, { recursive: true, force: true });
  try {
    if (template && (await exists(template))) await copyTree(template, partial);
    else await (await PGlite.create(partial)).close();
    await syncTree(partial);
    await rename(partial, folder);
    await syncFolder(dirname(folder));
  } catch (error) {
    await rm(partial, { recursive: true, force: true });
    throw error;
  }
}

/** Without these there is no database, and opening the folder would lay a new one over what is left. */
const NEEDED = ['PG_VERSION', 'base', 'global/pg_control', 'pg_wal', 'pg_xact', 'postgresql.conf'];

/** Files of a database that are not there. */
export async function missingFrom(folder: string): Promise<string[]> {
  const there = await Promise.all(NEEDED.map((name) => exists(join(folder, name))));
  return NEEDED.filter((_name, index) => !there[index]);
}

async function refuseDamaged(folder: string): Promise<void> {
  const missing = await missingFrom(folder);
  if (missing.length > 0)
    throw new DataProblem(
      `the database in ${folder} is damaged: ${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} missing. Nothing was changed; ./jolly check-data says what is whole, and can fall back on a copy`,
    );
  for (const name of ['', 'global/pg_control', 'pg_wal']) await access(join(folder, name), constants.W_OK);
}

async function migrate(lite: PGlite, folder: string, before: () => Promise<void>): Promise<void> {
  // Only where there is none: a statement that writes nothing still costs a start a sync.
  const [here] = (
    await lite.query<{ there: boolean }>(`select to_regclass('migration') is not null as there`)
  ).rows;
  if (here?.there !== true) await lite.exec('create table migration (name text primary key)');
  const done = new Set(
    (await lite.query<{ name: string }>('select name from migration')).rows.map((row) => row.name),
  );
  const known = (await readdir(folder)).filter((name) => name.endsWith('.sql')).sort();
  const newer = [...done].find((name) => !known.includes(name));
  if (newer !== undefined)
    throw new DataProblem(
      `this data was written by a newer Jolly Cog (it has the step ${newer}): start that one, or name another folder in JOLLY_DATA`,
    );
  const pending = known.filter((name) => !done.has(name));
  if (pending.length === 0) return;
  if (done.size > 0) await before();
  await lite.transaction(async (inside) => {
    for (const name of pending) {
      await inside.exec(await readFile(join(folder, name), 'utf8'));
      await inside.query('insert into migration (name) values ($1)', [name]);
    }
  });
}

async function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    (error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return false;
      throw error;
    },
  );
}
