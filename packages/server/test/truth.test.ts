import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { paths } from '../src/paths';
import { openDb } from '../src/sql/db';
import { followed, root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const entries = async (id: string) =>
  (await call('GET', `/machines/${id}/entries`)).body.map(
    (entry: { summary: string }) => entry.summary,
  ) as string[];
const job = async (id: string) => (await call('GET', `/machines/${id}/job`)).body;
const finish = (id: string) => call('POST', `/machines/${id}/job/state`, { state: 'done', putBack: false });
const nozzle = {
  title: 'Another nozzle',
  reason: 'part',
  changes: [{ id: 'n', kind: 'nozzle' }],
  taken: ['n'],
};

/** A copy of Dunlin under a name of its own. */
async function lay(id: string): Promise<void> {
  const file = readFileSync(join(root, 'catalogue/demo/dunlin.yaml'), 'utf8').replace(
    'id: dunlin',
    `id: ${id}`,
  );
  expect((await call('POST', '/machines', { file })).status).toBeLessThan(300);
}

describe('what a finished job leaves due', () => {
  it('stays due until it is measured, is on the shelf, and goes when the job is opened again', async () => {
    await lay('ruff');
    await call('POST', '/machines/ruff/job', nozzle);
    expect((await call('GET', '/machines/ruff/dues')).body).toEqual([]);
    expect((await finish('ruff')).status).toBe(200);
    const dues = (await call('GET', '/machines/ruff/dues')).body as { id: string; title: string }[];
    expect(dues.length).toBeGreaterThan(0);
    expect((await job('ruff')).finished).toMatchObject({ title: 'Another nozzle' });
    const [first] = dues;
    const left = (await call('POST', `/machines/ruff/dues/${first!.id}/done`)).body as { id: string }[];
    expect(left.map(({ id }) => id)).toEqual(dues.slice(1).map(({ id }) => id));
    expect((await entries('ruff'))[0]).toContain(first!.title);
    expect((await call('POST', '/machines/ruff/job/reopen')).status).toBe(200);
    expect((await job('ruff')).job).toMatchObject({ state: 'open', job: { title: 'Another nozzle' } });
    expect((await call('GET', '/machines/ruff/dues')).body).toEqual([]);
  });
  it('what was measured in the job is not due after it', async () => {
    const { title, changes, taken } = (await job('ruff')).job.job;
    const { version } = (await job('ruff')).job;
    await finish('ruff');
    const before = (await call('GET', '/machines/ruff/dues')).body as { id: string; title: string }[];
    await call('POST', '/machines/ruff/job/reopen');
    const [due] = before;
    const done = [
      {
        id: `calibration:${due!.id}`,
        kind: 'calibration',
        subject: 'a test',
        title: due!.title,
        at: new Date().toISOString(),
      },
    ];
    const now = (await job('ruff')).job.version;
    expect(now).toBeGreaterThanOrEqual(version);
    expect(
      (await call('PUT', '/machines/ruff/job', { version: now, title, changes, taken, done })).status,
    ).toBe(200);
    await finish('ruff');
    const after = (await call('GET', '/machines/ruff/dues')).body as { id: string }[];
    expect(after.map(({ id }) => id)).toEqual(before.slice(1).map(({ id }) => id));
  });
  it('there is nothing to take back where no job was finished, or where another is open', async () => {
    await lay('stint');
    expect((await call('POST', '/machines/stint/job/reopen')).body.error.message).toContain(
      'no finished job',
    );
    await call('POST', '/machines/stint/job', nozzle);
    await finish('stint');
    await call('POST', '/machines/stint/job', { ...nozzle, title: 'Another one' });
    expect((await call('POST', '/machines/stint/job/reopen')).status).toBe(409);
    expect((await job('stint')).job.job.title).toBe('Another one');
  });
});

/** The drivers of the board before are soldered to it. */
const TO_ALDER = [
  { id: 'b', kind: 'new-board', board: 'alder-a32', revision: '1.1' },
  { id: 'd', kind: 'drivers', part: 'dray-d1', axes: ['x', 'y', 'z', 'e'], microsteps: 16 },
];

describe('a board is known by itself', () => {
  it('what was flashed belongs to the board it was flashed to, and another board comes empty', async () => {
    await call('POST', '/machines/dunlin/waivers', { check: 'keep.no-way-back', because: 'it came empty' });
    const { body } = await call('POST', '/machines/dunlin/builds');
    await followed(server.address(), `/builds/${body.id}/events`);
    const { imageHash } = (await call('GET', `/builds/${body.id}`)).body;
    await call('PUT', '/machines/dunlin/board/card', {
      card: { format: 'FAT32', sizeGb: 8, files: [{ name: 'SEDGE.BIN', imageHash }] },
    });
    expect((await call('POST', '/machines/dunlin/flashes', { laid: [] })).body.outcome.taken).toBe(true);
    const old = (await call('GET', '/machines/dunlin/board')).body;
    expect(old).toMatchObject({ namesTaken: ['SEDGE.BIN'] });
    const { machine, version } = (await call('GET', '/machines/dunlin')).body;
    const moved = {
      title: 'Another board',
      reason: 'part',
      changes: TO_ALDER,
      taken: ['b', 'd'],
    };
    expect((await call('POST', '/machines/dunlin/job', moved)).status).toBe(200);
    expect(version).toBeGreaterThan(0);
    const empty = (await call('GET', '/machines/dunlin/board')).body;
    expect(empty.namesTaken).toEqual([]);
    expect(empty).not.toHaveProperty('image');
    // What is read out is the board that is replaced, which the bench has in its drawer, never the empty new one.
    const read = (await call('POST', '/machines/dunlin/kept-from-board')).body;
    expect(read[0].kept).toMatchObject({ kind: 'image', verdict: 'fits', board: { id: 'sedge-s4' } });
    await call('POST', '/machines/dunlin/job/state', {
      state: 'abandoned',
      putBack: true,
      because: 'a test',
    });
    expect((await call('GET', '/machines/dunlin')).body.machine.board).toEqual(machine.board);
    expect((await call('GET', '/machines/dunlin/board')).body).toEqual(old);
  });
});

describe('a way back', () => {
  it('of a board that never lay on the bench cannot be read out of the one that does', async () => {
    await lay('dotterel');
    await call('POST', '/machines/dotterel/job', {
      title: 'Another board',
      reason: 'part',
      changes: TO_ALDER,
      taken: ['b', 'd'],
    });
    const refused = await call('POST', '/machines/dotterel/kept-from-board');
    expect(refused.status).toBe(409);
    expect(refused.body.error.message).toMatch(/on the bench lies Alder A32.*wanted of Sedge S4/);
    const { kept, findings } = (await call('GET', '/machines/dotterel/kept')).body;
    expect(kept).toEqual([]);
    expect(findings.map(({ id }: { id: string }) => id)).toEqual(['keep.no-way-back']);
  });
});

describe('a line that is taught', () => {
  const line = {
    text: 'pause lifts # draws #',
    values: [{ key: 'park.lift', unit: 'mm' }, null],
  };
  const own = async () =>
    (await call('GET', '/catalogue')).body.dialects.find(({ id }: { id: string }) => id === 'own');
  it('is kept in a file of the data folder, known after a restart, and forgotten when asked', async () => {
    const answer = await call('POST', '/dialects/own/lines', { line });
    expect(answer.status).toBe(200);
    expect((await own()).lines).toEqual([line]);
    await call('POST', '/dialects/own/lines', { line });
    expect((await own()).lines).toHaveLength(1);
    expect(readFileSync(join(server.data(), 'dialects/own.yaml'), 'utf8')).toContain('pause lifts # draws #');
    await server.restart();
    expect((await own()).lines).toEqual([line]);
    await call('POST', '/dialects/own/forget', { text: line.text });
    expect((await own())?.lines ?? []).toEqual([]);
  });
  it.each([
    ['no line', {}],
    ['a line of other words', { line: { pattern: '.*' } }],
    ['numbers without values', { line: { text: 'pause # #', values: [null] } }],
    ['a value that is none', { line: { text: 'pause #', values: [{ key: 7 }] } }],
  ])('%s is refused and nothing is kept', async (_what, body) => {
    const before = await own();
    const answer = await call('POST', '/dialects/own/lines', body);
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.status).toBeLessThan(500);
    expect(await own()).toEqual(before);
  });
});

describe('the logbook', () => {
  it('takes a note, word for word, and no empty one', async () => {
    expect((await call('POST', '/machines/bittern/entries', { summary: 'Belt tightened <b>' })).status).toBe(
      200,
    );
    expect((await entries('bittern'))[0]).toBe('Belt tightened <b>');
    expect((await call('POST', '/machines/bittern/entries', { summary: '  ' })).status).toBe(400);
    expect((await call('POST', '/machines/nobody/entries', { summary: 'hello' })).status).toBe(404);
    expect((await entries('bittern'))[0]).toBe('Belt tightened <b>');
  });
});

describe('names that are gone', () => {
  it('are refused in a save, with the name', async () => {
    const { machine, version } = (await call('GET', '/machines/bittern')).body;
    machine.parts[0].part = 'motor-of-yesterday';
    const answer = await call('PUT', '/machines/bittern', { machine, version, label: 'a test' });
    expect(answer.status).toBe(422);
    expect(answer.body.error.message).toContain('motor-of-yesterday');
  });
  it('in a data folder from before: the shelf says which, beside the machines it knows', async () => {
    await server.restart(async () => {
      const at = paths(root, server.data());
      const db = await openDb({ folder: at.database, migrations: at.migrations });
      await db.query(
        "update machine set document = replace(document::text, 'hush-wire', 'hush-of-yesterday')::jsonb where id = 'plover'",
      );
      await db.close();
    });
    const shelf = (await call('GET', '/machines')).body as {
      machine: { id: string };
      problems?: { message: string }[];
    }[];
    const problems = Object.fromEntries(shelf.map(({ machine, problems }) => [machine.id, problems]));
    expect(problems['plover']![0]!.message).toContain('hush-of-yesterday');
    expect(problems['bittern']).toBeUndefined();
    const build = await call('POST', '/machines/plover/builds');
    expect(build.status).toBe(422);
    expect(build.body.error.message).toContain('hush-of-yesterday');
  });
});
