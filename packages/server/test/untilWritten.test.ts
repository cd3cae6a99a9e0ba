import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { demoMachine } from '../../core/test/fixtures/demo';
import { paths } from '../src/paths';
import { type Db, openDb, type Queries } from '../src/sql/db';
import { addEntry, findEntries, listEntries } from '../src/sql/entries';
import { addMachine } from '../src/sql/machines';
import { untilWritten } from '../src/sql/untilWritten';
import { root, throwAway } from './fixtures/server';

const folder = mkdtempSync(join(tmpdir(), 'jolly-written-'));
const at = paths(root, folder);
const NOW = new Date('2026-11-29T08:00:00.000Z');
const write = (db: Queries, summary: string) => addEntry(db, 'plover', { at: NOW, kind: 'note', summary });
let db: Db;
let readings = 0;
const lines = untilWritten(async (inside) => {
  readings += 1;
  return (await listEntries(inside, 'plover', 10)).map(({ summary }) => summary);
});
/** What it answers, and how often the database was read for it. */
const asked = async (inside: Queries = db) => {
  const before = readings;
  return { lines: await lines(inside), read: readings - before };
};

beforeAll(async () => {
  db = await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase });
  await addMachine(db, demoMachine('plover'), NOW);
});
afterAll(async () => {
  await db.close();
  throwAway(folder);
});

it('is read once, and again after each write', async () => {
  expect(await asked()).toEqual({ lines: [], read: 1 });
  expect(await asked()).toEqual({ lines: [], read: 0 });
  await write(db, 'one');
  expect(await asked()).toEqual({ lines: ['one'], read: 1 });
  await db.transaction((inside) => write(inside, 'two'));
  expect(await asked()).toEqual({ lines: ['two', 'one'], read: 1 });
  expect(await asked()).toMatchObject({ read: 0 });
});

it('keeps nothing of a transaction, and nothing that was read beside a write', async () => {
  const failing = db.transaction(async (inside) => {
    await write(inside, 'never');
    expect((await asked(inside)).lines[0]).toBe('never');
    throw new Error('taken back');
  });
  const [beside] = await Promise.all([asked(), failing.catch(() => undefined)]);
  expect(beside.lines[0]).toBe('two');
  expect(await asked()).toMatchObject({ lines: ['two', 'one'], read: 1 });
  const [, meanwhile] = await Promise.all([asked(), write(db, 'three')]);
  expect(meanwhile).toBeUndefined();
  expect((await asked()).lines[0]).toBe('three');
});

it('is of one database', async () => {
  await asked();
  const other: Db = { ...db, query: (sql, values) => db.query(sql, values) };
  expect(await asked(other)).toMatchObject({ read: 1 });
});

it('finds a line by words in any case', async () => {
  await write(db, 'Über den Rand: the NOZZLE touched');
  const find = async (...words: string[]) =>
    (await findEntries(db, 'plover', { words, limit: 5 })).entries.map(({ summary }) => summary);
  expect(await find('ÜBER', 'nozzle')).toEqual(['Über den Rand: the NOZZLE touched']);
  expect(await find('über', 'shim')).toEqual([]);
});
