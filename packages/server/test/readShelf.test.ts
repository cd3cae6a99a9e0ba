import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BuildInput, DoneBuild } from '@jolly/contract/endpoints/builds';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoMachine, installed } from '../../core/test/fixtures/demo';
import { guardsOffInImages } from '../src/app/unguardedImages';
import { readShelf } from '../src/app/readShelf';
import { paths } from '../src/paths';
import { addBuild, endBuild } from '../src/sql/builds';
import { type Db, openDb, type Queries } from '../src/sql/db';
import { addMachine, saveMachine, setPlace } from '../src/sql/machines';
import { root, throwAway } from './fixtures/server';

const folder = mkdtempSync(join(tmpdir(), 'jolly-shelf-'));
const at = paths(root, folder);
const NOW = new Date('2026-11-28T08:00:00.000Z');
const machine = (id: string, change: object = {}) => ({ ...demoMachine('plover'), id, ...change });
let db: Db;
const catalogue = { ...installed.catalogue };

beforeAll(async () => {
  db = await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase });
  for (const id of ['one', 'other']) await addMachine(db, machine(id), NOW);
});
afterAll(async () => {
  await db.close();
  throwAway(folder);
});

const shelf = async (over: Queries = db, inside = catalogue) =>
  new Map((await readShelf({ db: over as Db, catalogue: inside })).map((read) => [read.id, read]));

describe('a machine of the shelf', () => {
  it('is read once for each state of its row, and told apart from its neighbour', async () => {
    const first = await shelf();
    expect([...first.keys()].sort()).toEqual(['one', 'other']);
    await saveMachine(db, machine('one', { name: 'Plover two' }), 1, NOW);
    const then = await shelf();
    expect(then.get('one')).toMatchObject({ version: 2, machine: { name: 'Plover two' } });
    expect(then.get('other')).toBe(first.get('other'));
  });

  it('whose text is known is not fetched again', async () => {
    const known = await shelf();
    const asked: string[] = [];
    const counted: Queries = { query: (sql, values) => (asked.push(sql), db.query(sql, values)) };
    expect((await shelf(counted)).get('one')).toBe(known.get('one'));
    expect(asked).toHaveLength(1);
    expect(asked[0]).not.toContain('document');
  });

  it('that takes the place of another of its version is another', async () => {
    await addMachine(db, machine('third', { place: 'cellar' }), NOW);
    expect((await shelf()).get('third')).toMatchObject({ version: 1, machine: { place: 'cellar' } });
    await db.transaction(async (inside) => {
      await inside.query("delete from machine where id = 'third'");
      await addMachine(inside, machine('third', { place: 'attic' }), NOW);
    });
    expect((await shelf()).get('third')).toMatchObject({ version: 1, machine: { place: 'attic' } });
  });

  it('changed twice in one transaction is as it is at the end', async () => {
    await db.transaction(async (inside) => {
      await saveMachine(inside, machine('third', { place: 'shed' }), 1, NOW);
      await saveMachine(inside, machine('third', { place: 'loft' }), 2, NOW);
    });
    expect((await shelf()).get('third')).toMatchObject({ version: 3, machine: { place: 'loft' } });
  });

  it('that is put away, or goes while the shelf is read, is on it no more', async () => {
    await saveMachine(db, machine('third', { place: 'gone' }), 3, NOW);
    const going: Queries = {
      query: async (sql, values) => {
        if (sql.includes('document')) await db.query("delete from machine where id = 'third'");
        return db.query(sql, values);
      },
    };
    expect([...(await shelf(going)).keys()].sort()).toEqual(['one', 'other']);
    await setPlace(db, 'other', 'archive');
    expect([...(await shelf()).keys()]).toEqual(['one']);
  });

  it('is looked up anew when any list of the catalogue is another', async () => {
    expect('facts' in (await shelf()).get('one')!.read).toBe(true);
    const before = catalogue.parts;
    // As taking in a part of one's own does it: another list in the same catalogue.
    catalogue.parts = before.map((part) => ({ ...part, name: `${part.name} II` }));
    const { read } = (await shelf()).get('one')!;
    expect('facts' in read && read.facts.parts.every(({ type }) => type.name.endsWith(' II'))).toBe(true);
    const without = (await shelf(db, { ...catalogue, boards: [] })).get('one')!;
    expect('problems' in without.read && without.read.problems[0].message).toContain('no board');
  });
});

describe('the guards of an image', () => {
  const input = (guard: boolean): BuildInput => ({
    machine: machine('one'),
    settings: [
      { key: 'guard.bed', value: guard, source: 'override' },
      { key: 'guard.hotend', value: true, source: 'kit' },
      { key: 'guard.bed.rise-time', value: 20, source: 'kit' },
      { key: 'probe.dry', value: false, source: 'kit' },
    ],
    files: [],
  });
  const build = async (id: string, imageHash: string, guard: boolean, state: 'done' | 'failed' = 'done') => {
    await addBuild(db, { id, machine: 'one', version: 1, at: NOW, input: input(guard) });
    // Only what is read of it.
    await endBuild(db, id, { state, at: NOW, log: '', result: { imageHash } as DoneBuild });
  };
  it('are those it was built with, and not known of one that was not built here', async () => {
    await build('without', 'aa', false);
    await build('with', 'bb', true);
    await build('broken', 'cc', false, 'failed');
    expect([...(await guardsOffInImages(db, ['aa', 'bb', 'cc', 'dd']))]).toEqual([
      ['aa', ['guard.bed']],
      ['bb', []],
    ]);
  });
});
