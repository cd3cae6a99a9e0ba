import { keysOf } from '@jolly/core/tree/keysOf';
import { statfs } from 'node:fs/promises';
import { CONTRACT } from '@jolly/contract/contract';
import type { AnyEndpoint } from '@jolly/contract/endpoint';
import { COMMON, Refusal, written } from '@jolly/contract/refusal';
import type { Fields, Shape } from '@jolly/contract/shape';
import { isWhole } from '@jolly/core/text/plainText';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type { Handlers, Sent, Stream } from './handler';
import { refusalFor } from './refusals';

const BODY_LIMIT = 4 * 2 ** 20;

/** What any handler is asked with and answers, once the contract has been kept to by its type. */
type Handler = (asked: { params: unknown; body: unknown }) => unknown;

/**
 * Mounts the contract; every body and parameter is checked before its handler sees it. Nothing is begun that writes when
 * the disk that holds `data` has no room: a database that meets its end half way is harder to mend than a refusal.
 */
export function mount(app: Express, handlers: Handlers, data: string): void {
  app.use('/api', express.json({ limit: BODY_LIMIT, strict: true }));
  const names = keysOf(CONTRACT);
  for (const name of names) {
    const endpoint: AnyEndpoint = CONTRACT[name];
    const handler = handlers[name] as Handler; // Each is asked with what its own endpoint lets through.
    app[endpoint.method](
      `/api${endpoint.path.replace(/\{(\w+)\}/g, ':$1')}`,
      ...(endpoint.takesBytes ? [express.raw({ limit: endpoint.takesBytes, type: () => true })] : []),
      async (http: Request, reply: Response) => {
        const asked = readAsked(endpoint, http);
        if (endpoint.method !== 'get') await refuseFull(data);
        try {
          await send(endpoint, reply, await handler(asked));
        } catch (error) {
          if (error instanceof Refusal && !mayRefuse(endpoint, error))
            console.error(`${name} refuses with ${error.code}, which the contract does not name`);
          throw error;
        }
      },
    );
  }
  app.use('/api', (http: Request) => {
    throw new Refusal('not-found', `there is no ${http.method} ${http.originalUrl}`);
  });
  app.use(answerError);
}

const mayRefuse = ({ refusals }: AnyEndpoint, { code }: Refusal): boolean =>
  [...COMMON, ...refusals].includes(code);

function readAsked(endpoint: AnyEndpoint, http: Request): { params: unknown; body: unknown } {
  const params = { ...http.query, ...http.params };
  const fields: Fields = { ...endpoint.query, ...endpoint.params };
  for (const [name, field] of Object.entries(fields))
    refuseInvalid('optional' in field ? field.joi : field.joi.required(), params[name], name);
  for (const [name, value] of Object.entries(params)) refuseBroken(value, name);
  if (endpoint.takesBytes) return { params, body: bytesOf(http.body) };
  const body = endpoint.body as Shape<unknown> | undefined; // of any type
  if (body) {
    refuseInvalid(body.joi.required(), http.body, '');
    refuseBroken(http.body, '');
  }
  // Anything, until the shape has looked at it.
  return { params, body: http.body as unknown };
}

/** A body that was no bytes at all comes as an empty object. */
const bytesOf = (body: unknown): Uint8Array =>
  Buffer.isBuffer(body) ? new Uint8Array(body) : new Uint8Array();

function send({ answer }: AnyEndpoint, reply: Response, said: unknown): void | Promise<void> {
  // What a handler answers follows from its endpoint, by `Handlers`.
  if (answer.as === 'json') reply.json(said);
  // The contract says which of these an answer is.
  else if (answer.as === 'bytes') return sendBytes(reply, said as Sent);
  // as above
  else sendEvents(reply, said as Stream);
}

async function sendBytes(reply: Response, { type, bytes, write, saveAs, cache }: Sent): Promise<void> {
  reply.type(type);
  if (saveAs !== undefined) reply.attachment(saveAs).type(type);
  if (cache !== undefined) reply.set('Cache-Control', cache);
  // One that breaks off is no answer: the connection is cut, so that nobody takes it for whole.
  if (write) return write(reply).catch(() => void reply.destroy());
  reply.send(typeof bytes === 'string' ? bytes : Buffer.from(bytes));
}

function sendEvents(reply: Response, stream: Stream): void {
  reply.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
  reply.flushHeaders();
  const leave = stream(
    (event, data) => void reply.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`),
    () => reply.end(),
  );
  reply.on('close', leave);
}

function refuseInvalid(schema: Shape<unknown>['joi'], value: unknown, under: string): void {
  const { error } = schema.validate(value, { convert: false });
  const detail = error?.details[0];
  if (!detail) return;
  throw new Refusal('bad-value', detail.message, {
    path: [under, ...detail.path].filter((part) => part !== '').join('.'),
  });
}

/** Refuses text that can neither be stored nor shown: NUL, and halves of characters. */
function refuseBroken(value: unknown, path: string): void {
  if (typeof value === 'string' && !isWhole(value))
    throw new Refusal('bad-text', `${path || 'the body'} holds half a character or a NUL`, { path });
  if (value === null || typeof value !== 'object') return;
  for (const [key, item] of Object.entries(value)) {
    const below = path ? `${path}.${key}` : key;
    refuseBroken(key, below);
    refuseBroken(item, below);
  }
}

/** A database that grows takes room in pieces of 16 MB. */
const ROOM_TO_WRITE = 40 * 2 ** 20;
async function refuseFull(data: string): Promise<void> {
  const { bavail, bsize } = await statfs(data);
  if (bavail * bsize < ROOM_TO_WRITE) throw Object.assign(new Error('no room'), { code: 'ENOSPC' });
}

// Express knows an error handler by its four arguments.
function answerError(error: Error, _http: Request, reply: Response, next: NextFunction): void {
  if (reply.headersSent) return next(error);
  const refusal = refusalFor(error);
  if (!refusal) console.error(error);
  const said = refusal ?? new Refusal('internal', 'something went wrong in the server; its log says more');
  reply.status(said.status).json(written(said));
}
