import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../src/paths';
import { type Db, openDb } from '../src/sql/db';
import { findEntries } from '../src/sql/entries';
import { learnSpread } from '../src/sql/statistics';
import { root, throwAway } from './fixtures/server';

const data = mkdtempSync(join(tmpdir(), 'jolly-long-'));
const LINES = 3000;
let db: Db;
beforeAll(async () => {
  const at = paths(root, data);
  db = await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase });
  await db.query(`insert into machine (id, version, document, changed_at) values ('reeve', 1, '{}', now())`);
  await db.query(
    `insert into entry (machine, at, kind, summary, detail)
     select 'reeve', timestamptz '2026-01-01' + n * interval '1 hour', case when n % 3 = 0 then 'proof' else 'note' end, 'Line ' || n || ' ÉTÉ 100%', '{}'
     from generate_series(1, ${LINES}) n`,
  );
});
afterAll(async () => {
  await db.close();
  throwAway(data);
});

const PAGE = 200;
const page = (asked: Partial<Parameters<typeof findEntries>[2]> = {}) =>
  findEntries(db, 'reeve', { words: [], limit: PAGE, ...asked });

describe('a logbook of thousands of lines', () => {
  it('comes in pages, newest first, each told how many there are', async () => {
    const first = await page();
    expect([first.entries.length, first.total]).toEqual([PAGE, LINES]);
    expect(first.entries[0]?.summary).toBe(`Line ${LINES} ÉTÉ 100%`);
    const next = await page({ before: first.entries.at(-1)?.id ?? 0 });
    expect([next.entries[0]?.summary, next.total]).toEqual([`Line ${LINES - PAGE} ÉTÉ 100%`, LINES]);
  });

  it('the last page is shorter, and is told the same number', async () => {
    const all = await page({ limit: LINES - 5 });
    const rest = await page({ before: all.entries.at(-1)?.id ?? 0 });
    expect([rest.entries.length, rest.total]).toEqual([5, LINES]);
    const none = await page({ before: rest.entries.at(-1)?.id ?? 0 });
    expect([none.entries.length, none.total]).toEqual([0, LINES]);
  });

  it.each([
    [['line', '41'], /41/],
    [['été', 'LINE', '299'], /299/],
    [['100%'], /100%/],
  ])('the words %j are found however they are written', async (words, all) => {
    const { entries, total } = await page({ words });
    expect(total).toBeGreaterThan(0);
    for (const { summary } of entries) expect(summary).toMatch(all);
    expect(total).toBe((await page({ words, limit: LINES })).entries.length);
  });

  it('kinds and words go together; what is in none is no line', async () => {
    const proofs = await page({ kinds: ['proof'] });
    expect(proofs.total).toBe(LINES / 3);
    expect((await page({ kinds: ['proof'], words: ['2997'] })).total).toBe(1);
    expect(await page({ kinds: ['proof'], words: ['2998'] })).toEqual({ entries: [], total: 0 });
    expect(await page({ words: ['100_'] })).toEqual({ entries: [], total: 0 });
  });

  it('is paged by its index once its rows are known', async () => {
    await learnSpread(db);
    const plan = await db.query<Record<string, string>>(
      `explain select id from entry where machine = 'reeve' order by at desc, id desc limit ${PAGE}`,
    );
    const words = plan.map((row) => Object.values(row)[0]).join('\n');
    expect(words).toContain('entry_by_machine');
    expect(words).not.toContain('Sort');
  });
});
