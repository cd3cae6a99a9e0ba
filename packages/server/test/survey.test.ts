import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { Change } from '@jolly/core/ripple/change';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import { describe, expect, it } from 'vitest';
import { followed, root, serverForTests, type TestServer } from './fixtures/server';
import { order, toolRun } from './fixtures/toolRun';

const server = serverForTests();
const { call } = server;
const drawer = (path: string) => readFileSync(join(root, 'catalogue/demo/drawer', path));

/** Sends bytes as they are. */
async function send(path: string, bytes: Uint8Array): ReturnType<TestServer['call']> {
  const reply = await fetch(`${server.address()}/api${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: bytes as BodyInit,
  });
  return { status: reply.status, body: await reply.json() };
}

const parts = async (id: string) =>
  (await call('GET', `/machines/${id}`)).body.machine.parts.map(
    (part: { part: string }) => part.part,
  ) as string[];
const save = async (id: string, part: Record<string, unknown>) => {
  const { job } = (await call('GET', `/machines/${id}/job`)).body;
  const { title, changes, taken, done } = job.job;
  return call('PUT', `/machines/${id}/job`, { version: job.version, title, changes, taken, done, ...part });
};
const entries = async (id: string) =>
  (await call('GET', `/machines/${id}/entries`)).body.map(
    (entry: { summary: string }) => entry.summary,
  ) as string[];

describe('jobs', () => {
  const wanted = (changes: Omit<Change, 'id'>[], taken: string[] = []) => ({
    title: 'A job',
    reason: 'part',
    changes: changes.map((change, index) => ({ id: `c${index}`, ...change })),
    taken,
  });
  const drivers = { kind: 'drivers', part: 'hush-plain', axes: ['x'], microsteps: 32 } as never;
  const fan = { kind: 'fan', role: 'board', part: 'fan-24-40' } as never;

  it('the demo has Plover’s, with everything taken over', async () => {
    const { body } = await call('GET', '/machines/plover/job');
    expect(body.job).toMatchObject({ state: 'open', job: { taken: ['board', 'drivers', 'probe', 'fan'] } });
    expect(
      (await call('GET', '/machines')).body.find(
        (plate: { machine: { id: string } }) => plate.machine.id === 'plover',
      ).job.title,
    ).toContain('New board');
  });
  it('a machine has at most one; what is missing, too long or unknown is refused with its place', async () => {
    expect((await call('POST', '/machines/plover/job', wanted([fan]))).status).toBe(409);
    expect((await call('GET', '/machines/none/job')).status).toBe(404);
    for (const [body, path] of [
      [{ ...wanted([fan]), reason: 'mood' }, 'reason'],
      [{ ...wanted([fan]), overruled: 'no' }, 'overruled'],
      [{ ...wanted([fan]), taken: ['other'] }, 'taken'],
      [wanted([{ kind: 'paint' } as never]), 'changes.0'],
    ] as const)
      expect((await call('POST', '/machines/dunlin/job', body)).body.error.path).toContain(path);
    expect((await call('GET', '/machines/dunlin/job')).body.job).toBeNull();
  });
  it('goes by rounds: what is taken over is in the machine file, what is taken back is not, own edits stay', async () => {
    const before = (await call('GET', '/machines/dunlin')).body.machine;
    expect((await call('POST', '/machines/dunlin/job', wanted([drivers, fan]))).body.machine.machine).toEqual(
      before,
    );
    await save('dunlin', { taken: ['c0'] });
    expect(await parts('dunlin')).toContain('hush-plain');
    expect(await parts('dunlin')).not.toContain('fan-24-40-board');
    const now = (await call('GET', '/machines/dunlin')).body;
    await call('PUT', '/machines/dunlin', {
      version: now.version,
      machine: { ...now.machine, note: 'by hand' },
    });
    const both = await save('dunlin', { taken: ['c0', 'c1'] });
    expect(both.body.machine.machine.parts).toHaveLength(before.parts.length + 1);
    const back = await save('dunlin', { changes: [{ id: 'c1', ...(fan as object) }], taken: ['c1'] });
    expect(back.body.kept).toEqual([]);
    expect(await parts('dunlin')).not.toContain('hush-plain');
    expect(back.body.machine.machine.note).toBe('by hand');
  });
  it('a stale save is told so and changes nothing', async () => {
    const { job } = (await call('GET', '/machines/dunlin/job')).body;
    await save('dunlin', { title: 'Newer' });
    const { changes, taken, done } = job.job;
    const stale = await call('PUT', '/machines/dunlin/job', {
      version: job.version,
      title: 'Older',
      changes,
      taken,
      done,
    });
    expect(stale).toMatchObject({ status: 409, body: { error: { code: 'stale' } } });
    expect((await call('GET', '/machines/dunlin/job')).body.job.job.title).toBe('Newer');
  });
  it('what was done by hand is in the logbook, and what was put back', async () => {
    const done = [
      {
        id: 'lead:x@y',
        kind: 'lead',
        subject: 'x',
        title: 'Move the lead of x',
        to: 'E1',
        at: '2026-11-25T10:00:00Z',
      },
    ];
    await save('dunlin', { done });
    await save('dunlin', { done: [] });
    expect((await entries('dunlin')).slice(0, 2)).toEqual([
      'Put back: Move the lead of x',
      'Done: Move the lead of x → E1',
    ]);
  });
  it('a change that cannot be made, or two that exclude each other, leave job and machine as they were', async () => {
    const two = [32, 16].map((microsteps) => ({ ...(drivers as object), id: `m${microsteps}`, microsteps }));
    for (const changes of [[{ id: 'p', kind: 'probe-removed' }], two])
      expect((await save('dunlin', { changes, taken: changes.map(({ id }) => id) })).status).toBe(422);
    // As a plan it may stand until one of them is chosen.
    expect((await save('dunlin', { changes: two, taken: [] })).status).toBe(200);
    await save('dunlin', { changes: [{ id: 'c1', ...(fan as object) }], taken: ['c1'] });
    expect((await call('GET', '/machines/dunlin/job')).body.job.job.changes[0].id).toBe('c1');
  });
  it('is paused, resumed, and abandoned with the machine file as it was', async () => {
    const state = (body: object) => call('POST', '/machines/dunlin/job/state', body);
    await state({ state: 'paused', putBack: false });
    expect((await call('GET', '/machines/dunlin/job')).body.job.state).toBe('paused');
    expect((await call('POST', '/machines/dunlin/job', wanted([fan]))).status).toBe(409);
    await state({ state: 'open', putBack: false });
    const { body } = await state({ state: 'abandoned', putBack: true, because: 'changed my mind' });
    expect(
      body.machine.machine.parts.some((part: { role: string; part: string }) => part.role === 'board'),
    ).toBe(false);
    expect((await entries('dunlin'))[0]).toBe(
      'Job abandoned: Newer (changed my mind); what it had taken over is out of the machine file again',
    );
    expect((await state({ state: 'paused', putBack: false })).status).toBe(404);
    expect((await call('POST', '/machines/dunlin/job', wanted([fan]))).status).toBe(200);
  });
});

describe('the way back', () => {
  const findings = async () =>
    (await call('GET', '/machines/plover/kept')).body.findings.map((entry: { id: string }) => entry.id);
  it('without one, nothing is flashed over; the demo’s drawer has Plover’s', async () => {
    expect(await findings()).toEqual(['keep.no-way-back']);
    expect((await call('GET', '/machines/plover/kept')).body.drawer).toEqual([
      'plover-f8-maker.hex',
      'plover-settings.txt',
    ]);
    const { body } = await call('POST', '/machines/plover/builds');
    await followed(server.address(), `/builds/${body.id}/events`);
    const { imageHash } = (await call('GET', `/builds/${body.id}`)).body;
    const card = { format: 'FAT32', sizeGb: 8, files: [{ name: 'PLOV.BIN', imageHash }] };
    await call('PUT', '/machines/plover/board/card', { card });
    const refused = await call('POST', '/machines/plover/flashes', { laid: [] });
    expect(refused).toMatchObject({
      status: 409,
      body: { error: { code: 'no-way-back', findings: [{ id: 'keep.no-way-back' }] } },
    });
    expect((await call('GET', '/machines/plover/flashes')).body).toEqual([]);
  });
  it.each([
    ['nothing', new Uint8Array(), 422, '0 bytes'],
    ['an erased flash', new Uint8Array(500).fill(0xff), 422, 'erased flash'],
    ['a broken HEX', new TextEncoder().encode(':0300300002337A1F\n:00000001FF'), 422, 'line 1: the checksum'],
    ['64 MB', new Uint8Array(64 * 2 ** 20), 413, '16 MB'],
  ])('%s is refused in words and nothing is kept', async (_what, bytes, status, message) => {
    const answer = await send('/machines/plover/kept/image?name=x.hex', bytes);
    expect(answer.status).toBe(status);
    expect(answer.body.error.message).toContain(message);
    expect((await call('GET', '/machines/plover/kept')).body.kept).toEqual([]);
  });
  it('a report that is none, or of 5 MB, is refused', async () => {
    for (const [bytes, message] of [
      [new TextEncoder().encode('hello'), 'no setting was found'],
      [new Uint8Array(5_000_000).fill(120), 'at most 1000000'],
      [Uint8Array.from({ length: 3000 }, (_, index) => (index * 7919) % 256), 'not text'],
    ] as const)
      expect((await send('/machines/plover/kept/dump?name=x.txt', bytes)).body.error.message).toContain(
        message,
      );
    expect((await send('/machines/plover/kept/image', new Uint8Array(9))).body.error.path).toBe('name');
    expect((await send('/machines/plover/kept/soup?name=x', new Uint8Array(9))).status).toBe(400);
  });
  it('the old board’s image is kept once, judged against the old board, and settles the stop', async () => {
    const hex = drawer('plover/plover-f8-maker.hex');
    const { body } = await send('/machines/plover/kept/image?name=maker.hex', hex);
    expect(body).toMatchObject({
      already: false,
      kept: { verdict: 'fits', format: 'hex', board: { id: 'fenwick-f8', revision: '2' } },
    });
    expect((await send('/machines/plover/kept/image?name=again.hex', hex)).body).toMatchObject({
      already: true,
      kept: { name: 'maker.hex' },
    });
    expect(await findings()).toEqual([]);
    const back = await fetch(`${server.address()}/api/machines/plover/kept/${body.kept.id}/bytes`);
    expect(Buffer.from(await back.arrayBuffer()).equals(hex)).toBe(true);
    expect((await call('POST', '/machines/plover/flashes', { laid: [] })).body.outcome.taken).toBe(true);
    // It belongs to the old board, not to the one that is there now.
    const asked = order('probe', { image: { kept: body.kept.id } });
    expect((await toolRun(server, 'plover', asked)).body.error.code).toBe('other-board');
  });
  it('is waived only in words', async () => {
    const waive = (because: string) =>
      call('POST', '/machines/bittern/waivers', { check: 'keep.no-way-back', because });
    expect((await waive('ok')).status).toBe(400);
    expect((await waive('the maker has it on a card')).status).toBe(200);
    expect((await entries('bittern'))[0]).toContain('the maker has it on a card');
  });
  it('what the chip gives is read out of the board; a kept image is written back and reads back the same', async () => {
    const { kept } = (await call('GET', '/machines/bittern/kept')).body;
    const asked = order('probe', { image: { kept: kept[0].id } });
    expect((await toolRun(server, 'bittern', asked)).body.outcome.taken).toBe(true);
    const read = (await call('POST', '/machines/bittern/kept-from-board')).body;
    expect(read.map((answer: { kept: { kind: string } }) => answer.kept.kind)).toEqual([
      'image',
      'bootloader',
      'options',
      'store',
    ]);
    expect(read[0]).toMatchObject({ already: true, kept: { name: 'bittern-h6-maker.bin' } });
    expect((await call('GET', '/machines/bittern/board')).body).not.toHaveProperty('image');
    expect(await entries('bittern')).toContain(
      'Flashed a foreign image by debug probe from bittern-h6-maker.bin, 18,432 bytes',
    );
  });
  it('an image kept from another revision of the same board is not written onto this one', async () => {
    const { kept } = (await call('GET', '/machines/bittern/kept')).body;
    const { id } = kept.find(({ name }: { name: string }) => name === 'bittern-h6-maker.bin');
    const { machine, version } = (await call('GET', '/machines/bittern')).body;
    const other = { ...machine, board: { id: 'harrow-h6', revision: 'B' } };
    const saved = await call('PUT', '/machines/bittern', { machine: other, version });
    const asked = order('probe', { image: { kept: id } });
    const refused = await toolRun(server, 'bittern', asked);
    expect(refused.body.error.code).toBe('other-board');
    await call('PUT', '/machines/bittern', { machine, version: saved.body.version });
    expect((await toolRun(server, 'bittern', asked)).body.outcome.taken).toBe(true);
  });
  it('only names the drawer lists are read', async () => {
    expect((await call('GET', '/machines/plover/drawer/plover-settings.txt')).status).toBe(200);
    for (const name of ['..%2F..%2Fplover.yaml', 'none.txt'])
      expect((await call('GET', `/machines/plover/drawer/${name}`)).status).toBeGreaterThanOrEqual(400);
  });
});

describe('photos', () => {
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  it('are kept, pinned, and removed', async () => {
    const { body } = await send('/machines/plover/photos?title=left%20side', png);
    expect(body).toMatchObject({
      title: 'left side',
      width: 1,
      height: 1,
      board: { id: 'fenwick-f8' },
      pins: [],
    });
    const pins = [{ x: 0.2, y: 0.4, label: 'bed heater', header: 'OUT-B' }];
    expect(
      (await call('PUT', `/machines/plover/photos/${body.id}`, { title: 'left', pins })).body.pins,
    ).toEqual(pins);
    expect(
      (
        await call('PUT', `/machines/plover/photos/${body.id}`, {
          title: 'x',
          pins: [{ x: 2, y: 0, label: 'a' }],
        })
      ).body.error.path,
    ).toBe('pins.0.x');
    const picture = await fetch(`${server.address()}/api/machines/plover/photos/${body.id}/bytes`);
    expect(picture.headers.get('content-type')).toBe('image/png');
    expect((await call('GET', `/machines/dunlin/photos/${body.id}/bytes`)).status).toBe(404);
    await call('DELETE', `/machines/plover/photos/${body.id}`);
    expect((await call('GET', '/machines/plover/photos')).body).toEqual([]);
  });
  it('that are none are refused', async () => {
    expect(
      (await send('/machines/plover/photos?title=x', new TextEncoder().encode('GIF89a'))).body.error.message,
    ).toContain('not a picture');
    expect((await send('/machines/plover/photos?title=x', new Uint8Array(7 * 2 ** 20))).status).toBe(413);
  });
});

describe('board types', () => {
  it('are added from a file, known at once and after a restart, and saved as a file', async () => {
    const { boards } = (await call('GET', '/catalogue')).body;
    const own = { ...boards[0], id: 'my-board', name: 'My board', revision: '3' };
    expect((await call('POST', '/boards', { file: writeBoardFile(own) })).body.id).toBe('my-board');
    expect((await call('GET', '/boards/my-board/3/file')).body).toContain('name: My board');
    expect(
      (await call('GET', '/catalogue')).body.boards.some((board: { id: string }) => board.id === 'my-board'),
    ).toBe(true);
    await server.restart();
    expect(
      (await call('GET', '/catalogue')).body.boards.some((board: { id: string }) => board.id === 'my-board'),
    ).toBe(true);
  });
  it('with a mistake are refused with its place; the catalogue’s own are not replaced', async () => {
    const { boards } = (await call('GET', '/catalogue')).body;
    const bad = { ...boards[0], id: 'bad', headers: [{ ...boards[0].headers[0], contacts: ['sig:p250'] }] };
    const refused = (await call('POST', '/boards', { file: writeBoardFile(bad) })).body.error;
    expect(refused).toMatchObject({ code: 'bad-file', path: 'headers.0.contacts.0' });
    expect(refused.message).toContain('has no pin 250');
    expect((await call('POST', '/boards', { file: 'jolly: board/1\nname: [' })).body.error.message).toContain(
      'line 2',
    );
    expect((await call('POST', '/boards', { file: writeBoardFile(boards[0]) })).body.error.code).toBe(
      'id-taken',
    );
  });
  it('any text is refused or read', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string(), async (file) => {
        expect((await call('POST', '/boards', { file })).status).toBeLessThan(500);
      }),
      { numRuns: 25 },
    );
  });
});
