import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import fc from 'fast-check';
import { toBase64 } from '@jolly/core/bytes/base64';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { paths } from '../src/paths';
import { startReading } from '../src/reading/reading';
import { followed, root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const send = async (path: string, bytes: Uint8Array | string) => {
  const reply = await fetch(`${server.address()}/api${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: bytes as BodyInit,
  });
  return { status: reply.status, body: (await reply.json()) as any }; // eslint-disable-line @typescript-eslint/no-explicit-any
};
/** What an answer is to a request that `fetch` would not let through. */
const raw = (options: {
  method?: string;
  path: string;
  headers?: Record<string, string>;
  body?: string | Buffer;
}) =>
  new Promise<{ status: number; body: string }>((resolve, reject) => {
    const { port } = new URL(server.address());
    const asking = request({ port, host: '127.0.0.1', ...options }, (reply) => {
      let body = '';
      reply.on('data', (piece: Buffer) => (body += String(piece)));
      reply.on('end', () => resolve({ status: reply.statusCode ?? 0, body }));
    });
    asking.on('error', reject);
    asking.end(options.body);
  });
const json = { 'Content-Type': 'application/json' };

describe('what is asked wrongly is answered in words', () => {
  const entries = '/api/machines/plover/entries';
  it.each([
    ['a malformed origin', { path: '/api/health', headers: { Origin: 'http://[' } }, 403],
    ['NUL in a text', { method: 'POST', path: entries, headers: json, body: '{"summary":"a\\u0000b"}' }, 400],
    [
      'half a character',
      { method: 'POST', path: entries, headers: json, body: '{"summary":"a\\ud83d"}' },
      400,
    ],
    [
      'half a character in a key',
      { method: 'POST', path: entries, headers: json, body: '{"\\ud83d":1,"summary":"a"}' },
      400,
    ],
    ['NUL in an address', { path: '/api/machines/plover%00' }, 400],
    ['a broken address', { path: '/api/machines/%E0%A4%A' }, 400],
    [
      'an unknown charset',
      {
        method: 'POST',
        path: entries,
        headers: { 'Content-Type': 'application/json; charset=latin-99' },
        body: '{}',
      },
      415,
    ],
    [
      'an unknown encoding',
      { method: 'POST', path: entries, headers: { ...json, 'Content-Encoding': 'zip' }, body: '{}' },
      415,
    ],
    [
      'a body that is not what its encoding says',
      { method: 'POST', path: entries, headers: { ...json, 'Content-Encoding': 'gzip' }, body: '{}' },
      400,
    ],
  ])('%s', async (_what, asked, status) => {
    const answer = await raw(asked);
    expect(answer.status).toBe(status);
    expect((JSON.parse(answer.body) as { error: { message: string } }).error.message.length).toBeGreaterThan(
      5,
    );
  });
  it('any text whatever in a note is stored or refused, never an internal error', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'binary', minLength: 1, maxLength: 40 }), async (summary) => {
        const { status } = await call('POST', '/machines/plover/entries', { summary });
        expect([200, 400]).toContain(status);
      }),
      { numRuns: 60 },
    );
  });
  it('a name with a line break never reaches the start code', async () => {
    const { machine, version } = (await call('GET', '/machines/dunlin')).body;
    const answer = await call('PUT', '/machines/dunlin', {
      version,
      machine: { ...machine, name: 'D\nM104 S300' },
    });
    expect(answer).toMatchObject({ status: 400, body: { error: { path: 'machine.name' } } });
  });
});

describe('files cannot stop the server', () => {
  it('four bytes at the top of the address space are judged, not laid out', async () => {
    const hex = ':02000004FFFFFC\n:04FFF000000000000D\n:00000001FF\n';
    const { status, body } = await send('/machines/plover/kept/image?name=top.hex', hex);
    expect(status).toBe(200);
    expect(body.kept.verdict).toBe('doubtful');
    expect(body.kept.evidence[0]).toContain('bytes at 0xfffffff0, outside the flash');
    const restored = await call('POST', '/machines/plover/restores', { kept: body.kept.id });
    expect(restored.status).toBeGreaterThanOrEqual(400);
    expect(restored.status).toBeLessThan(500);
  });
  it.each([
    ['quotes', '"'],
    ['commas', '[,'],
    ['brackets', '['],
    ['unknown keys', ''],
  ])(
    '%s as a machine file and as a board file are refused while the server answers others',
    async (name, piece) => {
      const file =
        name === 'unknown keys'
          ? Array.from({ length: 20_000 }, (_, i) => `k${i}: 1`).join('\n')
          : piece.repeat(250_000 / piece.length);
      const slow = Promise.all([call('POST', '/machines', { file }), call('POST', '/boards', { file })]);
      let answered = 0;
      let over = false;
      void slow.finally(() => (over = true));
      while (!over) {
        expect((await call('GET', '/health')).status).toBe(200);
        answered += 1;
      }
      expect((await slow).map(({ status }) => status)).toEqual([422, 422]);
      expect(answered).toBeGreaterThan(0);
    },
  );
  it('what takes too long to read is ended, and the next is read', async () => {
    const strict = startReading(paths(root, root).readerWorker, 0.3);
    const long = new TextEncoder().encode('M92 X1 Y2\n'.repeat(99_000));
    await expect(strict.read('dump', { bytes: long, dialects: [] })).rejects.toMatchObject({
      status: 422,
      code: 'too-hard',
    });
    const patient = startReading(paths(root, root).readerWorker);
    expect(await patient.read('machineFile', 'jolly: x')).toHaveProperty('problems');
    await Promise.all([strict.close(), patient.close()]);
  });
  it('a board that loads outside the flash of its chip is refused with its place', async () => {
    const file = readFileSync(join(root, 'catalogue/boards/sedge-s4.yaml'), 'utf8').replace(
      'id: sedge-s4',
      'id: sedge-s9',
    );
    for (const address of ['1000000000000000', '900000000']) {
      const answer = await call('POST', '/boards', {
        file: file.replace('load_address: 8192', `load_address: ${address}`),
      });
      expect(answer).toMatchObject({ status: 422, body: { error: { path: 'routes.0.load_address' } } });
    }
  });
});

describe('photos', () => {
  const picture = () =>
    sharp({ create: { width: 40, height: 20, channels: 3, background: '#468' } })
      .withExif({ IFD0: { Copyright: 'SECRET-exif', ImageDescription: 'SECRET-place' } })
      .jpeg()
      .toBuffer();
  const stored = () =>
    ['images', 'photos'].flatMap((name) => {
      const folder = join(server.data(), name);
      try {
        return readdirSync(folder, { recursive: true })
          .map(String)
          .filter((path) => /[0-9a-f]{64}$/.test(path))
          .map((path) => join(folder, path));
      } catch {
        return [];
      }
    });
  const add = async (title: string, bytes: Uint8Array) =>
    (await send(`/machines/bittern/photos?title=${title}`, bytes)).body as { id: number; hash: string };

  it('keep nothing but the picture: not what stands in it, behind it or between its scans', async () => {
    const first = await picture();
    const between = Buffer.concat([
      first.subarray(0, 2),
      Buffer.from([0xff, 0xe5, 0, 14]),
      Buffer.from('SECRET-seg!!'),
      first.subarray(2),
    ]);
    const whole = Buffer.concat([between, Buffer.from('SECRET-film'), await picture()]);
    expect(whole.includes('SECRET-exif')).toBe(true);
    const { id } = await add('hidden', whole);
    const shown = Buffer.from(
      await (await fetch(`${server.address()}/api/machines/bittern/photos/${id}/bytes`)).arrayBuffer(),
    );
    expect(shown.includes('SECRET')).toBe(false);
    expect((await sharp(shown).metadata()).exif).toBeUndefined();
    for (const path of stored()) expect(readFileSync(path).includes('SECRET'), path).toBe(false);
  });
  it('that are removed are served no more, can be put back, and are gone when forgotten', async () => {
    const { id, hash } = await add('going', await picture());
    const bytes = async () =>
      (await fetch(`${server.address()}/api/machines/bittern/photos/${id}/bytes`)).status;
    const there = () => stored().some((path) => path.endsWith(hash));
    expect([await bytes(), there()]).toEqual([200, true]);
    expect((await fetch(`${server.address()}/api/images/${hash}`)).status).toBe(404);
    const removed = await call('DELETE', `/machines/bittern/photos/${id}`);
    expect(Date.parse(removed.body.until)).toBeGreaterThan(Date.parse(removed.body.photo.at));
    expect([await bytes(), there()]).toEqual([404, true]);
    expect((await call('POST', `/machines/bittern/photos/${id}/back`)).status).toBe(200);
    expect(await bytes()).toBe(200);
    expect((await call('POST', `/machines/bittern/photos/${id}/forget`)).status).toBe(404);
    await call('DELETE', `/machines/bittern/photos/${id}`);
    // Another photo of the very same picture keeps the bytes alive.
    for (const photo of (await call('GET', '/machines/bittern/photos')).body as { id: number }[]) {
      await call('DELETE', `/machines/bittern/photos/${photo.id}`);
      await call('POST', `/machines/bittern/photos/${photo.id}/forget`);
    }
    expect(there()).toBe(true);
    expect((await call('POST', `/machines/bittern/photos/${id}/forget`)).status).toBe(200);
    expect(there()).toBe(false);
    expect((await call('POST', `/machines/bittern/photos/${id}/back`)).status).toBe(404);
  });
  it('are at most sixty, however many are sent at once', async () => {
    const bytes = await picture();
    const answers = await Promise.all(
      Array.from({ length: 79 }, (_, i) => send(`/machines/dunlin/photos?title=n${i}`, bytes)),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(60);
    expect((await call('GET', '/machines/dunlin/photos')).body).toHaveLength(60);
  });
});

describe('order holds inside a transaction', () => {
  it('settings stored while the board is flashed are never lost', async () => {
    const { body } = await call('POST', '/machines/dunlin/builds');
    await followed(server.address(), `/builds/${body.id}/events`);
    const { imageHash } = (await call('GET', `/builds/${body.id}`)).body as { imageHash: string };
    const blank = fromStore((await call('GET', '/machines/dunlin/board')).body as { store: string });
    for (let round = 0; round < 12; round += 1) {
      const store = toBase64(blank.map((_, index) => (index === 0 ? round : 1)));
      await call('PUT', '/machines/dunlin/board/card', {
        card: { format: 'FAT32', sizeGb: 8, files: [{ name: `A${round}.BIN`, imageHash }] },
      });
      const [, saved] = await Promise.all([
        call('POST', '/machines/dunlin/flashes', { laid: [] }),
        call('PUT', '/machines/dunlin/board/store', { store }),
        call('POST', '/machines/dunlin/flashes', { laid: [] }),
      ]);
      expect(saved.status).toBe(200);
      expect((await call('GET', '/machines/dunlin/board')).body.store).toBe(store);
    }
  });
});

const fromStore = ({ store }: { store: string }) => new Uint8Array(Buffer.from(store, 'base64'));
