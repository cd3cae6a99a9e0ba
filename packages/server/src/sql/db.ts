import { PGlite, type Transaction } from '@electric-sql/pglite';
import { cp, mkdir, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';

/** The little that the product asks of a database, so that another PostgreSQL can stand behind it. */
export interface Db {
  query<Row>(sql: string, values?: unknown[]): Promise<Row[]>;
  /** Runs all or nothing. */
  transaction<T>(run: (db: Db) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

function over(connection: PGlite | Transaction, lite: PGlite): Db {
  return {
    query: async <Row>(sql: string, values: unknown[] = []) =>
      (await connection.query<Row>(sql, values)).rows,
    transaction: (run) => lite.transaction((inner) => run(over(inner, lite))),
    close: () => lite.close(),
  };
}

/**
 * Opens the database in a folder. A new one is copied from `template`, an initialised empty database, where there
 * is one: initialising from nothing takes seven seconds. Pending migrations run in one transaction.
 */
export async function openDb(folder: string, migrations: string, template?: string): Promise<Db> {
  await mkdir(dirname(folder), { recursive: true });
  if (template && !(await exists(folder)) && (await exists(template))) {
    await rm(`${folder}.part`, { recursive: true, force: true });
    await cp(template, `${folder}.part`, { recursive: true });
    await rename(`${folder}.part`, folder);
  }
  const lite = await PGlite.create(folder);
  const db = over(lite, lite);
  await migrate(lite, migrations);
  return db;
}

async function migrate(lite: PGlite, folder: string): Promise<void> {
  await lite.exec('create table if not exists migration (name text primary key)');
  const done = new Set(
    (await lite.query<{ name: string }>('select name from migration')).rows.map((row) => row.name),
  );
  const pending = (await readdir(folder)).filter((name) => name.endsWith('.sql') && !done.has(name)).sort();
  if (pending.length === 0) return;
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
    () => false,
  );
}
