import { request } from 'node:http';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;

describe('the edge', () => {
  it.each([
    ['GET', '/machines/none', undefined, 404, 'not-found'],
    ['GET', '/machines/..%2f..', undefined, 400, 'bad-value'],
    ['GET', '/nothing', undefined, 404, 'not-found'],
    ['GET', '/images/zz', undefined, 400, 'bad-value'],
    ['GET', `/images/${'0'.repeat(64)}`, undefined, 404, 'not-found'],
    ['PUT', '/machines/plover', '{broken', 400, 'bad-json'],
    ['PUT', '/machines/plover', undefined, 400, 'bad-value'],
    [
      'PUT',
      '/machines/plover/board/card',
      { card: { format: 'FAT32', sizeGb: 8, files: [{ name: '../x', imageHash: '0'.repeat(64) }] } },
      400,
      'bad-value',
    ],
    ['PUT', '/machines/plover/board/store', { store: 'AAAA' }, 400, 'bad-value'],
    ['POST', '/machines', { file: 'x'.repeat(5_000_000) }, 413, 'too-large'],
  ])('%s %s is refused', async (method, path, body, status, code) => {
    expect(await call(method, path, body)).toMatchObject({ status, body: { error: { code } } });
  });
  it('answers this computer and this site only', async () => {
    const port = new URL(server.address()).port;
    const status = (headers: Record<string, string>) =>
      new Promise((resolve) =>
        request({ port, host: '127.0.0.1', path: '/api/health', headers }, (reply) =>
          resolve(reply.statusCode),
        ).end(),
      );
    expect(await status({})).toBe(200);
    expect(await status({ Host: `evil.example:${port}` })).toBe(403);
    expect(await status({ Origin: 'http://evil.example' })).toBe(403);
    expect(await status({ Origin: 'null' })).toBe(403);
    expect(await status({ Origin: server.address() })).toBe(200);
  });
  it('sends a strict content policy', async () => {
    const policy = (await fetch(`${server.address()}/api/health`)).headers.get('content-security-policy');
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(policy).toContain("default-src 'self'");
  });
  it('describes every endpoint', async () => {
    const { body } = await call('GET', '/openapi.json');
    expect(Object.keys(body.paths).length).toBeGreaterThan(18);
    expect(
      body.paths['/api/machines/{id}'].put.requestBody.content['application/json'].schema.required,
    ).toEqual(['version', 'machine']);
    expect((await call('GET', '/schemas/machine')).body.properties.frame).toBeDefined();
  });
  it('any JSON body gets a clear answer, never an internal error', async () => {
    const paths = ['/machines', '/machines/plover/flashes', '/machines/plover/proofs'];
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...paths), fc.jsonValue(), async (path, body) => {
        const { status, body: answer } = await call('POST', path, JSON.stringify(body));
        expect(status).toBeLessThan(500);
        if (status >= 400) expect(answer.error.message.length).toBeGreaterThan(5);
      }),
      { numRuns: 60 },
    );
  });
});
