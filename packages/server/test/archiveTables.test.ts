import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { TABLES } from '../src/archive/layout';
import { paths } from '../src/paths';
import { openDb } from '../src/sql/db';
import { root, throwAway } from './fixtures/server';

/** What features take is measured by building, and can be measured again. */
const WORKED_OUT = ['costs'];

it('all that is kept of a machine goes along when it moves house', async () => {
  const data = mkdtempSync(join(tmpdir(), 'jolly-tables-'));
  const at = paths(root, data);
  const db = await openDb({ folder: at.database, migrations: at.migrations });
  const rows = await db.query<{ table_name: string }>(
    "select table_name from information_schema.columns where table_schema = 'public' and column_name = 'machine'",
  );
  await db.close();
  throwAway(data);
  const kept = rows.map(({ table_name }) => table_name).filter((table) => !WORKED_OUT.includes(table));
  expect(kept.sort()).toEqual(TABLES.filter((table) => table !== 'image').sort());
});
