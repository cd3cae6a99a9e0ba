import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type Joi from 'joi';
import { isWhole } from '@jolly/core/text/plainText';
import { statfs } from 'node:fs/promises';
import { ApiError } from './apiError';
import { refusalFor } from './refusals';

/** One way into the server. The schemas guard it and describe it in the OpenAPI document. */
export interface Endpoint {
  method: 'get' | 'post' | 'put' | 'delete';
  /** With parameters written `{id}`. */
  path: string;
  summary: string;
  body?: Joi.ObjectSchema;
  params?: Record<string, Joi.Schema>;
  query?: Record<string, Joi.Schema>;
  /** Takes bytes instead of JSON, at most so many. */
  takesBytes?: number;
  /** Answers itself, for streams and bytes; otherwise what `run` gives back is sent as JSON. */
  raw?: true;
  run: (request: Asked) => unknown;
}
interface Asked {
  params: Record<string, string>;
  query: Record<string, string>;
  body: never;
  http: Request;
  reply: Response;
}

const BODY_LIMIT = 4 * 2 ** 20;

/**
 * Mounts endpoints; every body and parameter is checked before `run` sees it. Nothing is begun that writes when the disk
 * that holds `data` has no room: a database that meets its end half way is harder to mend than a refusal.
 */
export function mount(app: Express, endpoints: Endpoint[], data: string): void {
  app.use('/api', express.json({ limit: BODY_LIMIT, strict: true }));
  for (const endpoint of endpoints) {
    app[endpoint.method](
      `/api${endpoint.path.replace(/\{(\w+)\}/g, ':$1')}`,
      ...(endpoint.takesBytes ? [express.raw({ limit: endpoint.takesBytes, type: () => true })] : []),
      async (http: Request, reply: Response) => {
        const params = http.params as Record<string, string>;
        const query = http.query as Record<string, string>;
        for (const [name, schema] of Object.entries(endpoint.params ?? {}))
          refuseInvalid(schema, params[name], name);
        for (const [name, schema] of Object.entries(endpoint.query ?? {}))
          refuseInvalid(schema, query[name], name);
        for (const [name, value] of Object.entries({ ...params, ...query })) refuseBroken(value, name);
        if (endpoint.body) {
          refuseInvalid(endpoint.body.required(), http.body, '');
          refuseBroken(http.body, '');
        }
        if (endpoint.method !== 'get') await refuseFull(data);
        const answer = await endpoint.run({ params, query, body: http.body as never, http, reply });
        if (!endpoint.raw) reply.json(answer ?? {});
      },
    );
  }
  app.use('/api', (http: Request) => {
    throw new ApiError(404, 'not-found', `there is no ${http.method} ${http.originalUrl}`);
  });
  app.use(answerError);
}

function refuseInvalid(schema: Joi.Schema, value: unknown, under: string): void {
  const { error } = schema.validate(value, { convert: false });
  const detail = error?.details[0];
  if (!detail) return;
  throw new ApiError(400, 'bad-value', detail.message, {
    path: [under, ...detail.path].filter((part) => part !== '').join('.'),
  });
}

/** Refuses text that can neither be stored nor shown: NUL, and halves of characters. */
function refuseBroken(value: unknown, path: string): void {
  if (typeof value === 'string' && !isWhole(value))
    throw new ApiError(400, 'bad-text', `${path || 'the body'} holds half a character or a NUL`, { path });
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
  if (refusal) {
    const { status, code, message, more } = refusal;
    reply.status(status).json({ error: { code, message, ...more } });
    return;
  }
  console.error(error);
  reply.status(500).json({
    error: { code: 'internal', message: 'something went wrong in the server; its log says more' },
  });
}
