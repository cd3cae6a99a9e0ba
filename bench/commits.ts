import { PGlite } from '@electric-sql/pglite';
import { cpSync } from 'node:fs';
import { join } from 'node:path';
import { openLite } from '../packages/server/src/sql/db';

const COMMITS = 200;

/** What it costs that a commit is on the disk before it is acknowledged, against the same without a sync. */
export async function commitsBench(
  root: string,
  scratch: string,
  say: (what: string, figure: string) => void,
): Promise<void> {
  const took = async (name: string, open: (folder: string) => Promise<PGlite>): Promise<number> => {
    const folder = join(scratch, name);
    cpSync(join(root, 'dist/empty-database'), folder, { recursive: true });
    const db = await open(folder);
    await db.query('create table note (text text)');
    const from = performance.now();
    for (let i = 0; i < COMMITS; i += 1) await db.query('insert into note values ($1)', [`note ${i}`]);
    const each = (performance.now() - from) / COMMITS;
    await db.close();
    return each;
  };
  const unsynced = await took('unsynced', (folder) => PGlite.create(folder));
  const synced = await took('synced', (folder) => openLite(folder));
  say(
    'a commit on the disk, against one that is not',
    `${synced.toFixed(2)} / ${unsynced.toFixed(2)} ms = ${(synced / unsynced).toFixed(1)}`,
  );
}
