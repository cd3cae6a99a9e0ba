import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;

const begin = async (from: object = { from: 'nothing' }) =>
  (await call('POST', '/boards-begun', from)).body as {
    id: string;
    version: number;
    begun: { board: Record<string, unknown>; photo?: { hash: string } };
  };
const save = (id: string, version: number, begun: object) =>
  call('PUT', `/boards-begun/${id}`, { version, begun });
const picture = (colour: string): Promise<Buffer> =>
  sharp({ create: { width: 64, height: 48, channels: 3, background: colour } }).jpeg().toBuffer(); // prettier-ignore

describe('a board that is described', () => {
  it('is kept half said, a stale save is refused, and it cannot be added before it holds together', async () => {
    const { id, version, begun } = await begin();
    const half = { ...begun, board: { ...begun.board, name: 'Wagtail' } };
    expect((await save(id, version, half)).body.version).toBe(version + 1);
    expect((await save(id, version, half)).body.error.code).toBe('stale');
    expect((await save(id, version + 1, { ...half, board: {} })).status).toBe(400);
    const refused = await call('POST', `/boards-begun/${id}/board`);
    expect(refused.body.error.code).toBe('bad-file');
    expect((await call('GET', `/boards-begun/${id}`)).body.begun).toEqual(half);
    await call('DELETE', `/boards-begun/${id}`);
    expect((await call('GET', `/boards-begun/${id}`)).status).toBe(404);
  });
  it('a copy has no name yet; a further revision is kept by what differs and becomes a board of its own', async () => {
    const copy = await begin({ from: 'copy', id: 'pipit-2', revision: '1' });
    expect(copy.begun.board['name']).toBeUndefined();
    expect(copy.begun.board['headers']).not.toHaveLength(0);
    const sister = await begin({ from: 'revision', id: 'pipit-2', revision: '1' });
    // What is printed on the one, and what tells it apart, is looked at anew; its faults are cautions.
    expect(sister.begun.board['print']).toBeUndefined();
    expect(sister.begun.board['tells']).toEqual([]);
    const faulty = await begin({ from: 'copy', id: 'harrow-h6', revision: 'A' });
    const faults = faulty.begun.board['faults'] as { sure: string }[];
    expect(faults.length).toBeGreaterThan(0);
    expect(new Set(faults.map(({ sure }) => sure))).toEqual(new Set(['suspected']));
    const begun = { ...sister.begun, board: { ...sister.begun.board, revision: '7', print: ['PIPIT 2 R7'] } };
    await save(sister.id, sister.version, begun);
    const board = (await call('POST', `/boards-begun/${sister.id}/board`)).body;
    expect(board).toMatchObject({ id: 'pipit-2', revision: '7', print: ['PIPIT 2 R7'] });
    expect((await call('GET', `/boards-begun/${sister.id}`)).status).toBe(404);
    const own = (await call('GET', '/own-types')).body.boards;
    expect(own).toContainEqual({ id: 'pipit-2', revision: '7', name: 'Pipit 2', usedBy: [] });
  });
  it('a photo is drawn anew and kept with it; another takes its place, and thrown away it is gone', async () => {
    const { id } = await begin();
    const send = async (bytes: Buffer) =>
      fetch(`${server.address()}/api/boards-begun/${id}/photo`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream' },
        body: new Uint8Array(bytes),
      });
    expect((await send(await picture('#1d6d56'))).status).toBe(200);
    const first = (await call('GET', `/boards-begun/${id}`)).body.begun.photo;
    expect(first).toMatchObject({ width: 64, height: 48, corners: [] });
    expect((await send(await picture('#803010'))).status).toBe(200);
    const second = (await call('GET', `/boards-begun/${id}`)).body.begun.photo;
    expect(second.hash).not.toBe(first.hash);
    const shown = await fetch(`${server.address()}/api/boards-begun/${id}/photo`);
    expect(shown.headers.get('content-type')).toBe('image/jpeg');
    const refused = await send(Buffer.from('no picture'));
    expect(refused.status).toBe(422);
    expect((await call('GET', `/boards-begun/${id}`)).body.begun.photo).toEqual(second);
    await call('DELETE', `/boards-begun/${id}`);
    expect((await fetch(`${server.address()}/api/boards-begun/${id}/photo`)).status).toBe(404);
  });
});

describe('a chip of one’s own', () => {
  const file = readFileSync(join(root, 'catalogue/chips/chips.yaml'), 'utf8').split('\n---\n')[0] ?? '';
  const own = file.replace('id: mica-c', 'id: mica-q').replace('name: Mica-C', 'name: Mica-Q');
  it('is added, carried by a board, changed as long as that board fits it', async () => {
    expect((await call('POST', '/chips', { file })).body.error.code).toBe('id-taken');
    expect((await call('POST', '/chips', { file: own })).body).toMatchObject({
      id: 'mica-q',
      name: 'Mica-Q',
    });
    const alder = await begin({ from: 'copy', id: 'alder-a32', revision: '1.1' });
    const board = { ...alder.begun.board, id: 'alder-q', name: 'Alder Q', revision: '1', chip: 'mica-q', print: ['ALDER Q'] }; // prettier-ignore
    await save(alder.id, alder.version, { ...alder.begun, board });
    expect((await call('POST', `/boards-begun/${alder.id}/board`)).body).toMatchObject({ id: 'alder-q' });
    const small = own.replace('pins: [0, 39]', 'pins: [0, 3]');
    expect((await call('POST', '/chips', { file: small })).body.error).toMatchObject({ code: 'bad-file' });
    const faster = own.replace('clock_hz: 96000000', 'clock_hz: 98000000');
    expect((await call('POST', '/chips', { file: faster })).body).toMatchObject({ clock_hz: 98000000 });
    const { chips } = (await call('GET', '/own-types')).body;
    expect(chips).toEqual([{ id: 'mica-q', name: 'Mica-Q', usedBy: ['Alder Q rev 1'] }]);
  });
});
