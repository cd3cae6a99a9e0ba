import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { makeImage, readImage } from '@jolly/core/image/imageHeader';
import { beforeAll, describe, expect, it } from 'vitest';
import { followed, root, serverForTests } from './fixtures/server';
import { order, toolRun } from './fixtures/toolRun';

const server = serverForTests();
const { call } = server;

/** Bytes as they are sent for a file. */
async function send(path: string, bytes: Uint8Array<ArrayBuffer>) {
  const reply = await fetch(`${server.address()}/api${path}`, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: bytes }); // prettier-ignore
  return { status: reply.status, body: (await reply.json()) as never };
}
/** Starts a run of a tool and follows it to its end. */
const run = (id: string, asked: object) => toolRun(server, id, asked);
const board = async (id: string) => (await call('GET', `/machines/${id}/board`)).body;
const waive = (id: string) => call('POST', `/machines/${id}/waivers`, { check: 'keep.no-way-back', because: 'a board of this test, it is empty' }); // prettier-ignore
/** An image of ours for a target, without a compiler. */
const imageOf = (target: string, loadAddress: number, bytes = 3000) =>
  makeImage(
    { kitVersion: '0.1.0', target, loadAddress, buildId: 'feedbeef', name: 'Test' },
    new Uint8Array(bytes).fill(5),
  ) as Uint8Array<ArrayBuffer>; // made in the line above
async function takenIn(id: string, target: string, loadAddress: number, bytes?: number) {
  const { body } = await send(`/machines/${id}/images?name=test.bin`, imageOf(target, loadAddress, bytes));
  return { hash: (body as { hash: string }).hash, name: 'test.bin' };
}

describe('a tool at the board', () => {
  let image: { hash: string; name: string };
  beforeAll(async () => {
    await waive('bittern');
    image = await takenIn('bittern', 'harrow-h6-a', 16384);
  });

  it('refuses what it cannot do, in words, and records nothing', async () => {
    const cases: [object, number, string][] = [
      [order('drive', { image }), 422, 'no route as a USB drive'],
      [order('serial'), 409, 'which image'],
      [order('serial', { image: { hash: '0'.repeat(64), name: 'x' } }), 404, 'no image'],
      [order('serial', { image: { kept: 99 } }), 404, 'no kept image'],
      [order('serial', { does: 'bootloader' }), 422, 'installed by wires'],
      [order('card', { image }), 400, 'route'],
    ];
    for (const [asked, status, says] of cases) {
      const refused = await run('bittern', asked);
      expect(refused.status, says).toBe(status);
      expect(refused.body.error.message).toContain(says);
    }
    expect((await call('GET', '/machines/bittern/flashes')).body).toEqual([]);
    expect((await call('GET', '/machines/bittern/flash-run')).body).toEqual({ state: 'none' });
    expect((await call('GET', '/machines/none/flash-run')).status).toBe(404);
  });
  it('overwrites nothing without a way back; trying needs none', async () => {
    expect((await run('plover', order('probe', { image }))).body.error.code).toBe('no-way-back');
    const tried = await run('plover', order('update-class', { does: 'try' }));
    expect(tried.body).toMatchObject({ state: 'ended', does: 'try', outcome: { taken: true } });
    expect((await board('plover')).imageHash).toBeNull();
  });
  it('writes, tells its progress, and what it wrote is there after a restart', async () => {
    const written = await run('bittern', order('serial', { image, pace: 1 }));
    expect(written.body).toMatchObject({ state: 'ended', route: 'serial', outcome: { taken: true, name: 'test.bin' } });
    expect(written.news).toMatch(/event: progress[\s\S]*reading back[\s\S]*event: ended/);
    expect(await board('bittern')).toMatchObject({ imageHash: image.hash, image: { buildId: 'feedbeef' }, bootloader: { is: 'there' } });
    await server.restart();
    expect((await board('bittern')).imageHash).toBe(image.hash);
    const [flash] = (await call('GET', '/machines/bittern/flashes')).body;
    expect(flash).toMatchObject({ route: 'serial', does: 'write', board: 'harrow-h6 A', fromStart: false });
    const [entry] = (await call('GET', '/machines/bittern/entries')).body;
    expect(entry.summary).toBe('Flashed Test, build feedbeef, over USB serial from test.bin, 3,096 bytes');
  }); // prettier-ignore
  it('broken off in the middle, what was written by then stays, and a second tool is refused meanwhile', async () => {
    const large = await takenIn('bittern', 'harrow-h6-a', 16384, 60_000);
    expect((await call('POST', '/machines/bittern/flash-run', order('serial', { image: large, pace: 1 }))).body.state).toBe('running');
    expect((await call('POST', '/machines/bittern/flash-run', order('probe', { image }))).body.error.code).toBe('busy');
    const reply = await fetch(`${server.address()}/api/machines/bittern/flash-run/events`);
    const reader = reply.body!.pipeThrough(new TextDecoderStream()).getReader();
    for (let heard = ''; !heard.includes('writing'); ) heard += (await reader.read()).value ?? '';
    const cut = await call('POST', '/machines/bittern/flash-run/break', { by: 'power lost' });
    await reader.cancel();
    expect(cut.body).toMatchObject({ state: 'ended', outcome: { taken: false, reason: 'power lost', partly: true } });
    const after = await board('bittern');
    expect(after.imageHash).not.toBe(image.hash);
    expect(after.image).toBeUndefined();
    expect(after.bootloader.is).toBe('there');
    expect((await call('POST', '/machines/bittern/flash-run/break', { by: 'cancelled' })).body.error.code).toBe('not-running');
    expect((await run('bittern', order('probe', { image }))).body.outcome.taken).toBe(true);
    expect((await board('bittern')).imageHash).toBe(image.hash);
  }); // prettier-ignore
  it('what is stored in the settings meanwhile is not lost, and a kept image of another board is refused', async () => {
    const store = Buffer.alloc(4096, 9).toString('base64');
    await call('PUT', '/machines/bittern/board/store', { store });
    await run('bittern', order('probe', { image }));
    expect((await board('bittern')).store).toBe(store);
    const hex = await readFile(join(root, 'catalogue/demo/drawer/plover/plover-f8-maker.hex'));
    const { body } = await send('/machines/plover/kept/image?name=maker.hex', new Uint8Array(hex));
    const { id: kept } = (body as { kept: { id: number } }).kept;
    await waive('plover');
    expect((await run('plover', order('probe', { image: { kept } }))).body.error).toMatchObject({ code: 'other-board' });
  }); // prettier-ignore
  it('what a tool came to at one board is not told of another copy of it', async () => {
    const { machine } = (await call('GET', '/machines/bittern')).body;
    const put = async (changed: object) =>
      call('PUT', '/machines/bittern', { version: (await call('GET', '/machines/bittern')).body.version, machine: { ...machine, ...changed } });
    const stands = async () => (await call('GET', '/machines/bittern/flash-run')).body;
    expect(await stands()).toMatchObject({ state: 'ended', outcome: { taken: true } });
    await put({ board: { ...machine.board, copy: 2 } });
    expect(await stands()).toEqual({ state: 'none' });
    expect(await board('bittern')).toMatchObject({ imageHash: null, bootloader: { is: 'unknown' } });
    await put({});
    expect(await stands()).toMatchObject({ state: 'ended', outcome: { taken: true } });
  }); // prettier-ignore
  it('faults around the board are met: wires, port, a tool that is wrong about itself', async () => {
    const with_ = (laid: string[], route: string) => run('bittern', order(route, { image, laid }));
    expect((await with_(['programmer-wires-exchanged'], 'probe')).body.outcome).toMatchObject({ reason: 'no answer' });
    expect((await with_(['port-held'], 'serial')).body.outcome).toMatchObject({ reason: 'port held' });
    expect((await with_(['tool-reports-an-error'], 'serial')).body.outcome).toMatchObject({ taken: true, toolSaid: 'the tool reports that writing failed' });
    expect((await board('bittern')).imageHash).toBe(image.hash);
    // The wires write what lies ready, whatever it is for; the board then holds it and starts nothing.
    expect((await with_(['image-for-another-target'], 'probe')).body.outcome).toMatchObject({ taken: true });
    const held = (await board('bittern')).image;
    expect(held).toMatchObject({ target: 'another-board-1' });
  }); // prettier-ignore
});

describe('a bootloader', () => {
  it('is missing, is installed, and takes the card again', async () => {
    await waive('dunlin');
    const image = await takenIn('dunlin', 'sedge-s4-1', 8192);
    const gone = await run('dunlin', order('drive', { image, laid: ['bootloader-missing'] }));
    expect(gone.body.outcome).toMatchObject({ taken: false, reason: 'no answer' });
    // The fault stays in the flash until somebody mends it there.
    expect((await run('dunlin', order('drive', { image }))).body.outcome).toMatchObject({ reason: 'no answer' });
    const card = { format: 'FAT32', sizeGb: 8, files: [{ name: 'SEDGE.BIN', imageHash: image.hash }] };
    await call('PUT', '/machines/dunlin/board/card', { card });
    const left = await call('POST', '/machines/dunlin/flashes', { laid: [] });
    expect(left.body.outcome).toMatchObject({ taken: false, reason: 'no bootloader' });
    expect((await board('dunlin')).bootloader.is).toBe('unknown');
    const installed = await run('dunlin', order('probe', { does: 'bootloader' }));
    expect(installed.body.outcome).toMatchObject({ taken: true });
    expect((await board('dunlin')).bootloader).toMatchObject({ is: 'there', because: expect.stringContaining('installed by debug probe') as string });
    expect((await call('POST', '/machines/dunlin/flashes', { laid: [] })).body.outcome).toMatchObject({ taken: true, name: 'SEDGE.BIN' });
  }); // prettier-ignore
  it('of two files on the card the one that was taken is on record', async () => {
    const [image, other] = [await takenIn('dunlin', 'sedge-s4-1', 8192, 3100), await takenIn('dunlin', 'sedge-s4-1', 8192, 3200)];
    const files = [{ name: 'NOTES.TXT', imageHash: other.hash }, { name: 'SEDGE.BIN', imageHash: image.hash }];
    await call('PUT', '/machines/dunlin/board/card', { card: { format: 'FAT32', sizeGb: 8, files } });
    const { body } = await call('POST', '/machines/dunlin/flashes', { laid: [] });
    expect(body.outcome).toMatchObject({ taken: true, name: 'SEDGE.BIN' });
    const [flash] = (await call('GET', '/machines/dunlin/flashes')).body;
    expect(flash).toMatchObject({ fileName: 'SEDGE.BIN', imageHash: image.hash });
  }); // prettier-ignore
  it('a machine that does without one: images begin at 0, only wires are left, and going back is told as it is', async () => {
    const { machine, version } = (await call('GET', '/machines/dunlin')).body;
    const without = { ...machine, board: { ...machine.board, bootloader: false } };
    expect((await call('PUT', '/machines/dunlin', { machine: without, version, label: 'without' })).status).toBe(200);
    const image = await takenIn('dunlin', 'sedge-s4-1', 0, 70_000);
    expect((await run('dunlin', order('drive', { image }))).body.error.code).toBe('impossible');
    expect((await run('dunlin', order('probe', { image }))).body.outcome).toMatchObject({ taken: true });
    expect(await board('dunlin')).toMatchObject({ boot: { fromStart: true }, imageHash: image.hash, bootloader: { is: 'absent' } });
    const { body: saved } = await call('GET', `/machines/dunlin/images/${image.hash}/hex?name=x.hex`);
    expect(String(saved)).toMatch(/^:02000004/);
    const file = await fetch(`${server.address()}/api/images/${image.hash}/file/bin`);
    expect(readImage(new Uint8Array(await file.arrayBuffer()))).toHaveProperty('code');
  }); // prettier-ignore
  it('what a bad word or number asks for is refused', async () => {
    for (const asked of [order('probe', { pace: -1 }), order('probe', { does: 'all' }), order('probe', { laid: 'x' }), {}])
      expect((await call('POST', '/machines/dunlin/flash-run', asked)).body.error.code).toBe('bad-value');
    expect((await send('/machines/dunlin/images?name=x.bin', new Uint8Array(0))).status).toBe(422);
    expect((await call('POST', '/machines/dunlin/cards-written', { fileName: 'X.BIN', imageHash: '0'.repeat(64) })).status).toBe(404);
  }); // prettier-ignore
});

describe('an image that was really built', () => {
  it('goes by USB update to a board that then says so, and its name on a real card is remembered', async () => {
    const { body } = await call('POST', '/machines/plover/builds');
    await followed(server.address(), `/builds/${body.id}/events`);
    const { imageHash } = (await call('GET', `/builds/${body.id}`)).body;
    const asked = order('update-class', { image: { hash: imageHash, name: 'x.bin' } });
    expect((await run('plover', asked)).body.outcome).toMatchObject({ taken: true });
    expect((await board('plover')).imageHash).toBe(imageHash);
    await call('POST', '/machines/plover/cards-written', { fileName: 'PLOV1.BIN', imageHash });
    expect((await board('plover')).namesWritten).toEqual(['PLOV1.BIN']);
  });
});
