import { whyOf } from '@jolly/core/text/whyOf';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { openAsBlob } from 'node:fs';
import { readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { folderStore, hashOf } from '../files/byteStore';
import { syncFolder, syncTree } from '../files/durable';
import { loadOwnDialect } from '../files/ownDialect';
import type { paths } from '../paths';
import { type Db, missingFrom, openDb, openLite } from '../sql/db';
import { copiesFolder, listCopies } from './copies';
import { DataProblem } from './dataProblem';
import { clearLeftovers, leftoversIn } from './leftovers';

/** One thing that was looked at. */
export interface DataFinding {
  what: string;
  state: 'whole' | 'mended' | 'broken';
  /** What is wrong and what to do, or how much was found whole. */
  says: string;
}
/** Brings back what can be brought back, in an open database. */
export type Mend = (db: Db) => Promise<DataFinding[]>;
type Places = ReturnType<typeof paths>;

/**
 * Looks through a data folder that this process holds: the database and everything in it, and the bytes it names.
 * What was half written is cleared away, and `mend` may bring things back; nothing else is changed.
 */
export async function checkData(data: string, at: Places, mend?: Mend): Promise<DataFinding[]> {
  const cleared = await clearLeftovers(data);
  const leftovers: DataFinding[] =
    cleared.length > 0
      ? [
          {
            what: 'half written files',
            state: 'mended',
            says: `${cleared.length} cleared away; nothing named them`,
          },
        ]
      : [];
  return [
    ...leftovers,
    ...(await checkDatabase(at, mend)),
    await checkDialect(data),
    await checkCopies(data),
  ];
}

async function checkDatabase(at: Places, mend: Mend | undefined): Promise<DataFinding[]> {
  const what = 'the database';
  const missing = await missingFrom(at.database);
  if (missing.length > 0)
    return [
      {
        what,
        state: 'broken',
        says: `${missing.join(', ')} missing from ${at.database}; fall back on a copy`,
      },
    ];
  let db: Db;
  try {
    db = await openDb({ folder: at.database, migrations: at.migrations });
  } catch (error) {
    return [{ what, state: 'broken', says: whyOf(error) }];
  }
  try {
    const tables = await checkTables(db);
    const mended = tables.state === 'whole' && mend ? await mend(db) : [];
    return [tables, ...mended, await checkMachines(db), ...(await checkBytes(db, at))];
  } finally {
    await db.close();
  }
}

/** Every row of every table is read, so that a damaged page is met here and not by a person at work. */
async function checkTables(db: Db): Promise<DataFinding> {
  const tables = await db.query<{ name: string }>(
    `select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
  );
  const broken: string[] = [];
  let rows = 0;
  for (const { name } of tables)
    try {
      const [row] = await db.query<{ count: string | number }>(
        `select count(*) as count, max(length(t::text)) from "${name.replaceAll('"', '""')}" t`,
      );
      rows += Number(row?.count ?? 0);
    } catch (error) {
      broken.push(`${name} (${whyOf(error)})`);
    }
  return broken.length > 0
    ? {
        what: 'the database',
        state: 'broken',
        says: `cannot be read: ${broken.join(', ')}; fall back on a copy`,
      }
    : { what: 'the database', state: 'whole', says: `${tables.length} tables, ${rows} rows read` };
}

async function checkMachines(db: Db): Promise<DataFinding> {
  const rows = await db.query<{ id: string; document: Machine }>('select id, document from machine');
  const broken = rows.flatMap(({ id, document }) => {
    const { error } = machineSchema().validate(document, { convert: false });
    return error ? [`${id}: ${error.message}`] : [];
  });
  return broken.length > 0
    ? {
        what: 'machines',
        state: 'broken',
        says: `${broken.join('; ')}. Mend it in Settings, or fall back on a copy`,
      }
    : { what: 'machines', state: 'whole', says: `${rows.length} read and understood` };
}

const NAMED = `select hash, 'image' as what, 'build it again' as way from image
  union select hash, 'kept file', 'keep it again in Survey, while the board still has it' from kept
  union select hash, 'photo', 'take it again' from photo
  union select document->'photo'->>'hash', 'photo of a board', 'take it again' from begun_board where document->'photo' is not null`;

/** Bytes the database names are there and are what they were. */
async function checkBytes(db: Db, at: Places): Promise<DataFinding[]> {
  const named = await db.query<{ hash: string; what: string; way: string }>(NAMED);
  const stores = [folderStore(at.images, 0), folderStore(at.photos, 0)];
  const findings: DataFinding[] = [];
  for (const { hash, what, way } of named) {
    const found = await Promise.all(stores.map((store) => store.get(hash)));
    const bytes = found.find((entry) => entry !== undefined);
    if (!bytes)
      findings.push({ what: `${what} ${hash.slice(0, 12)}`, state: 'broken', says: `missing: ${way}` });
    else if (hashOf(bytes) !== hash)
      findings.push({ what: `${what} ${hash.slice(0, 12)}`, state: 'broken', says: `damaged: ${way}` });
  }
  if (findings.length === 0)
    findings.push({
      what: 'images, kept files and photos',
      state: 'whole',
      says: `${named.length}, each as it was stored`,
    });
  const known = new Set(named.map(({ hash }) => hash));
  const stored = (await Promise.all(stores.map((store) => store.keys()))).flat();
  const spare = stored.filter((key) => !known.has(key)).length;
  if (spare > 0)
    findings.push({
      what: 'bytes that this database does not name',
      state: 'whole',
      says: `${spare}, left alone: a database that was put aside may name them`,
    });
  return findings;
}

async function checkDialect(data: string): Promise<DataFinding> {
  const what = 'lines you taught';
  return loadOwnDialect(data).then(
    ({ lines }): DataFinding => ({ what, state: 'whole', says: `${lines.length} read` }),
    (error: Error): DataFinding => ({
      what,
      state: 'broken',
      says: `${error.message}. Mend the file, or take it away`,
    }),
  );
}

async function checkCopies(data: string): Promise<DataFinding> {
  const copies = await listCopies(data);
  return {
    what: 'copies to fall back on',
    state: 'whole',
    says:
      copies.map(({ name, bytes }) => `${name} (${(bytes / 2 ** 20).toFixed(1)} MB)`).join(', ') ||
      'none yet',
  };
}

/**
 * Puts a copy in the place of the database; what was there is put aside, not deleted.
 * @throws {DataProblem} when there is no such copy, or it does not open
 */
export async function fallBack(
  data: string,
  at: Places,
  name: string,
  now: Date,
): Promise<{ aside: string }> {
  if (!(await listCopies(data)).some((copy) => copy.name === name))
    throw new DataProblem(`there is no copy "${name}" in ${copiesFolder(data)}`);
  const partial = `${at.database}.part`;
  await rm(partial, { recursive: true, force: true });
  const lite = await openLite(partial, await openAsBlob(join(copiesFolder(data), name)));
  await lite.query('select count(*) from machine');
  await lite.close();
  await syncTree(partial);
  const aside = `${at.database}-until-${now.toISOString().slice(0, 19).replaceAll(':', '-')}`;
  const there = await stat(at.database).catch(() => undefined);
  if (there) await rename(at.database, aside);
  await rename(partial, at.database);
  await syncFolder(data);
  return { aside: there ? aside : 'nothing; there was no database' };
}

/** Whether there is anything kept in a folder at all. */
export async function isEmpty(data: string): Promise<boolean> {
  const names = await readdir(data).catch(() => []);
  return names.every((name) => name === 'holder') && (await leftoversIn(data)).length === 0;
}
