import { request } from 'node:http';
import { call } from '../product';
import { must, type Trial } from '../trial';

const METHODS = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD'];
const PATHS = [
  '/api/machines', '/api/machines/plover', '/api/machines/plover/entries', '/api/machines/plover/job', '/api/boards',
  '/api/machines/plover/kept/image?name=x', '/api/machines/plover/photos?title=x', '/api/machines/plover/board/card',
  '/api/machines/plover/board/store', '/api/machines/plover/restores', '/api/machines/plover/proofs',
  '/api/dialects/own/lines', '/api/machines/plover/photos/1/back', '/api/builds/x/events', '/api/images/x', '/x',
  '/api/machines/plover/undo', '/api/machines/plover/drawer/x', '/api/boards/sedge-s4/1/file', '/api/openapi.json',
]; // prettier-ignore
const ODD = [
  '%00',
  '%ED%A0%BD',
  '%E0%A4%A',
  '..%2f..%2fetc%2fpasswd',
  '?name=%00',
  '?title=',
  '/',
  '%',
  '?a[b]=1',
];
const HEADERS: [string, string[]][] = [
  ['Content-Type', ['application/json', 'application/json; charset=latin-99', 'text/plain', 'multipart/form-data', 'x']],
  ['Content-Encoding', ['gzip', 'br', 'zip', 'deflate']],
  ['Origin', ['http://[', 'null', 'http://evil.example', 'http://127.0.0.1']],
  ['Host', ['evil.example', '127.0.0.1:1', 'localhost']],
  ['Accept', ['text/event-stream', '*/*', 'x']],
  ['Range', ['bytes=0-1', 'bytes=9999999-']],
]; // prettier-ignore
const BODIES = [
  '', '{', '[]', 'null', '{}', '{"summary":"\\u0000"}', '{"summary":"\\ud800"}', '{"__proto__":{"a":1}}', '"x"', '1e999',
  '{"version":1e308,"machine":{}}', '{"file":"' + '['.repeat(5000) + '"}', '{"file":"jolly: machine/1"}', '\u0000\u0001',
  '{"constructor":{"prototype":{}}}', '{"kept":-1}', '{"card":{"format":"FAT32","sizeGb":8,"files":[{"name":"..","imageHash":"0"}]}}',
]; // prettier-ignore

/** Requests nobody sends by mistake: each gets an answer in words, none an internal error, and the house stands. */
export const hostileHttp: Trial = {
  name: 'hostile HTTP (100 requests each)',
  share: 1,
  async attempt({ chance, house }) {
    const { port } = new URL(house.address);
    for (let i = 0; i < 100; i += 1) {
      const asked = {
        method: chance.one(METHODS),
        path: chance.one(PATHS) + (chance.next() < 0.3 ? chance.one(ODD) : ''),
        headers: Object.fromEntries(
          HEADERS.filter(() => chance.next() < 0.3).map(([name, values]) => [name, chance.one(values)]),
        ),
      };
      const body = chance.next() < 0.8 ? chance.one(BODIES) : chance.text('{}[]",:\\u0123 ', 200);
      const status = await send(Number(port), asked, body);
      must(
        status < 500 || status === 503 || status === 507,
        `${status} for ${JSON.stringify(asked)} ${body.slice(0, 80)}`,
      );
    }
    must((await call(house.address, 'GET', '/health')).status === 200, 'the house fell');
  },
};

function send(
  port: number,
  asked: { method: string; path: string; headers: Record<string, string> },
  body: string,
): Promise<number> {
  return new Promise((resolve) => {
    const sending = request({ host: '127.0.0.1', port, ...asked, timeout: 20_000 }, (reply) => {
      const events = reply.headers['content-type']?.includes('event-stream') ?? false;
      if (events) reply.destroy();
      reply.resume();
      reply.on('close', () => resolve(reply.statusCode ?? 0));
    });
    sending.on('timeout', () => resolve(599));
    sending.on('error', () => resolve(0));
    if (['GET', 'HEAD', 'OPTIONS', 'DELETE'].includes(asked.method)) sending.end();
    else sending.end(body);
  });
}
