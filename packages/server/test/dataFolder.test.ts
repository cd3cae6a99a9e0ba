import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { checkData, fallBack } from '../src/data/checkData';
import { listCopies, putCopy } from '../src/data/copies';
import { DataProblem } from '../src/data/dataProblem';
import { mendDemo } from '../src/demo/mendDemo';
import { takeHold } from '../src/data/holder';
import { paths } from '../src/paths';
import { openDb } from '../src/sql/db';
import { syncs } from '../src/sql/syncedFiles';
import {
  callsAt,
  followed,
  root,
  somethingToCompile,
  spawnServer,
  testServer,
  throwAway,
} from './fixtures/server';

const folders: string[] = [];
const fresh = () => {
  folders.push(mkdtempSync(join(tmpdir(), 'jolly-data-')));
  return folders.at(-1)!;
};
afterAll(() => folders.forEach(throwAway));

const note = (address: string, summary: string) =>
  fetch(`${address}/api/machines/plover/entries`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ summary }),
  });
const notes = async (address: string): Promise<string[]> =>
  ((await (await fetch(`${address}/api/machines/plover/entries`)).json()) as { summary: string }[]).map(
    ({ summary }) => summary,
  );

describe('one process holds a data folder', () => {
  it('a second is told who does, ends at once, and the dead are taken over from', async () => {
    const data = fresh();
    const first = await spawnServer(data);
    const second = await spawnServer(data);
    expect(second.address).toBe('');
    expect(await second.ended).toBe(1);
    expect(second.heard()).toContain(`process ${first.child.pid}, since `);
    expect((await note(first.address, 'before the kill')).status).toBe(200);
    first.child.kill('SIGKILL');
    await first.ended;
    const third = await spawnServer(data);
    expect(await notes(third.address)).toContain('before the kill');
    third.child.kill('SIGTERM');
    expect(await third.ended).toBe(0);
  });
  it('a port in use ends the second before it opens anything; the first may be killed after', async () => {
    const data = fresh();
    const first = await spawnServer(data);
    const port = Number(new URL(first.address).port);
    const elsewhere = fresh();
    const second = await spawnServer(elsewhere, port);
    expect(await second.ended).toBe(2);
    expect(second.heard()).toContain(`port ${port} is in use`);
    expect(existsSync(join(elsewhere, 'demo/database'))).toBe(false);
    first.child.kill('SIGKILL');
    await first.ended;
    const again = await spawnServer(data, port);
    expect(again.address).not.toBe('');
    again.child.kill('SIGKILL');
    await again.ended;
  });
  it('of many that take it at once, one has it; a released one is free', async () => {
    const data = fresh();
    for (let round = 0; round < 5; round += 1) {
      const takers = await Promise.allSettled(Array.from({ length: 8 }, () => takeHold(data, new Date())));
      const holds = takers.filter((taker) => taker.status === 'fulfilled');
      expect(holds).toHaveLength(1);
      await holds[0]!.value.release();
    }
  });
  it.each([
    ['of a process that is no more', { process: 2 ** 22 + 1, started: 'x' }, true],
    ['that is damaged', undefined, true],
    ['of another computer', { process: 1, started: '', computer: 'elsewhere.invalid' }, false],
  ])('a mark %s', async (_what, mark, free) => {
    const data = fresh();
    const first = await takeHold(data, new Date());
    await first.release();
    const [name] = readdirSync(join(data, 'holder'));
    const path = join(data, 'holder', name!);
    const written = JSON.parse(readFileSync(path, 'utf8')) as object;
    writeFileSync(path, mark ? JSON.stringify({ ...written, released: false, ...mark }) : '{');
    const taking = takeHold(data, new Date());
    if (free) await (await taking).release();
    else await expect(taking).rejects.toThrow('on the computer "elsewhere.invalid"');
  });
});

describe('acknowledged means on the disk', () => {
  it('every save syncs before it is answered', async () => {
    const data = fresh();
    const server = await testServer(data);
    for (let i = 0; i < 5; i += 1) {
      const before = syncs.count;
      expect((await server.call('POST', '/machines/plover/entries', { summary: `note ${i}` })).status).toBe(
        200,
      );
      expect(syncs.count).toBeGreaterThan(before);
    }
    await server.stop();
  });
});

describe('damage is met with a sentence, and nothing is laid over it', () => {
  const listing = (folder: string) => readdirSync(folder, { recursive: true }).map(String).sort();
  it.each(['PG_VERSION', 'global/pg_control', 'pg_wal'])('a database without its %s', async (name) => {
    const data = fresh();
    const at = paths(root, data);
    await (
      await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase })
    ).close();
    rmSync(join(at.database, name), { recursive: true });
    const before = listing(at.database);
    await expect(
      openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase }),
    ).rejects.toThrow(`${name} is missing`);
    expect(listing(at.database)).toEqual(before);
    expect(await checkData(data, at)).toContainEqual(
      expect.objectContaining({ what: 'the database', state: 'broken' }),
    );
  });
  it('data of a newer version is left alone', async () => {
    const data = fresh();
    const at = paths(root, data);
    const db = await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase });
    await db.query("insert into migration values ('900-later.sql')");
    await db.close();
    await expect(openDb({ folder: at.database, migrations: at.migrations })).rejects.toThrow(DataProblem);
  });
  it('a kept file that a killed first start left out is there after the next', async () => {
    const data = fresh();
    const first = await testServer(data);
    await first.stop();
    const at = paths(root, data);
    const db = await openDb({ folder: at.database, migrations: at.migrations });
    await db.query('delete from kept');
    await db.close();
    writeFileSync(join(data, 'images', 'half.part'), 'x');
    const next = await testServer(data);
    expect((await next.call('GET', '/machines/bittern/kept')).body.kept).toHaveLength(1);
    expect(readdirSync(join(data, 'images'))).not.toContain('half.part');
    await next.stop();
  });
  it('the same is mended by looking through the data', async () => {
    const data = fresh();
    await (await testServer(data)).stop();
    const at = paths(root, data);
    const db = await openDb({ folder: at.database, migrations: at.migrations });
    await db.query("delete from kept where machine = 'dunlin'");
    await db.close();
    const mend = mendDemo(root, data, new Date());
    expect(await checkData(data, at, mend)).toContainEqual(
      expect.objectContaining({ what: 'the demo', state: 'mended' }),
    );
    expect((await checkData(data, at, mend)).every(({ state }) => state === 'whole')).toBe(true);
  });
  it('missing and damaged bytes are named', async () => {
    const data = fresh();
    const server = await testServer(data);
    await server.stop();
    const at = paths(root, data);
    expect((await checkData(data, at)).every(({ state }) => state === 'whole')).toBe(true);
    const [one, two] = listing(at.images).filter((name) => /[0-9a-f]{64}$/.test(name));
    rmSync(join(at.images, one!));
    writeFileSync(join(at.images, two!), 'other bytes');
    const says = (await checkData(data, at))
      .filter(({ state }) => state === 'broken')
      .map((entry) => entry.says);
    expect(says.map((text) => text.split(':')[0]).sort()).toEqual(['damaged', 'missing']);
  });
});

describe('a copy to fall back on', () => {
  it('is put aside before a migration, and can take the place of what is there', async () => {
    const data = fresh();
    const at = paths(root, data);
    const newer = fresh();
    cpSync(at.migrations, newer, { recursive: true });
    writeFileSync(join(newer, '999-later.sql'), 'create table later (id integer)');
    const before = await openDb({
      folder: at.database,
      migrations: at.migrations,
      template: at.emptyDatabase,
    });
    await before.query("insert into machine values ('old', 1, '{}', now())");
    await before.close();
    const db = await openDb({
      folder: at.database,
      migrations: newer,
      beforeMigration: (old) => putCopy(data, old, new Date(), 'before-a-new-version').then(() => undefined),
    });
    await db.query("insert into machine values ('new', 1, '{}', now())");
    await db.close();
    const [copy] = await listCopies(data);
    const { aside } = await fallBack(data, at, copy!.name, new Date());
    const back = await openDb({ folder: at.database, migrations: at.migrations });
    expect(await back.query('select id from machine')).toEqual([{ id: 'old' }]);
    await back.close();
    expect(existsSync(aside)).toBe(true);
    await expect(fallBack(data, at, '../../etc.tgz', new Date())).rejects.toThrow('there is no copy');
  });
});

describe('ending', () => {
  it('while building ends at once, cleanly, and the build is said to be interrupted', async () => {
    const data = fresh();
    const server = await spawnServer(data);
    const call = callsAt(server.address);
    await somethingToCompile(call, 'plover');
    const { id } = (await call('POST', '/machines/plover/builds')).body as { id: string };
    // Ctrl-C reaches the compilers too.
    process.kill(-server.child.pid!, 'SIGINT');
    expect(await server.ended).toBe(0);
    expect(server.heard()).toBe('');
    const again = await spawnServer(data);
    const build = (await (await fetch(`${again.address}/api/builds/${id}`)).json()) as { state: string };
    expect(build.state).toBe('interrupted');
    expect((await notes(again.address)).filter((text) => text.includes('interrupted'))).toHaveLength(1);
    again.child.kill('SIGKILL');
    await again.ended;
  });
  it.skipIf(process.platform !== 'linux')('an idle compiler that dies is replaced, and said', async () => {
    const server = await spawnServer(fresh());
    const { pid } = server.child;
    const build = async () => {
      const reply = await fetch(`${server.address}/api/machines/plover/builds`, { method: 'POST' });
      const { id } = (await reply.json()) as { id: string };
      await followed(server.address, `/builds/${id}/events`);
      return ((await (await fetch(`${server.address}/api/builds/${id}`)).json()) as { state: string }).state;
    };
    expect(await build()).toBe('done');
    const compilers = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ');
    expect(compilers.length).toBeGreaterThan(0);
    for (const compiler of compilers) process.kill(Number(compiler), 'SIGKILL');
    expect(await build()).toBe('done');
    expect(server.heard()).toContain('a compiler process ended by itself (SIGKILL)');
    server.child.kill('SIGTERM');
    expect(await server.ended).toBe(0);
  });
});

describe('a server killed during a build', () => {
  it('shows the build as interrupted when it comes back, and keeps everything acknowledged', async () => {
    const data = fresh();
    const { child, address } = await spawnServer(data);
    await somethingToCompile(callsAt(address), 'plover');
    const { id } = (await callsAt(address)('POST', '/machines/plover/builds')).body;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    const back = await testServer(join(data, 'demo'));
    expect((await back.call('GET', `/builds/${id}`)).body.state).toBe('interrupted');
    expect((await back.call('GET', '/machines/plover/entries')).body[0].summary).toContain('interrupted');
    const again = await back.call('POST', '/machines/plover/builds');
    await followed(back.address, `/builds/${again.body.id}/events`);
    expect((await back.call('GET', `/builds/${again.body.id}`)).body.state).toBe('done');
    await back.stop();
  });
});
