import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type Joi from 'joi';
import { ApiError } from './apiError.js';

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

/** Mounts endpoints; every body and parameter is checked before `run` sees it. */
export function mount(app: Express, endpoints: Endpoint[]): void {
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
        if (endpoint.body) refuseInvalid(endpoint.body.required(), http.body, '');
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

// Express knows an error handler by its four arguments.
function answerError(
  error: Error & { status?: number; type?: string; limit?: number; length?: number },
  _http: Request,
  reply: Response,
  next: NextFunction,
): void {
  if (reply.headersSent) return next(error);
  if (error instanceof ApiError) {
    reply.status(error.status).json({ error: { code: error.code, message: error.message, ...error.more } });
  } else if (error.type === 'entity.too.large') {
    reply.status(413).json({
      error: {
        code: 'too-large',
        message: `this has ${error.length ?? 'too many'} bytes; at most ${error.limit ?? BODY_LIMIT} are taken (${Math.round((error.limit ?? BODY_LIMIT) / 2 ** 20)} MB)`,
      },
    });
  } else if (error.status === 400) {
    reply.status(400).json({ error: { code: 'bad-json', message: `the body is no JSON: ${error.message}` } });
  } else {
    console.error(error);
    reply.status(500).json({
      error: { code: 'internal', message: 'something went wrong in the server; its log says more' },
    });
  }
}
