import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { NextFunction, Request, Response } from 'express';

const PLACE = /__NONCE__/g;

/** Gives every answer a word of its own that style sheets made by the page must carry. */
export function freshNonce(_http: Request, reply: Response, next: NextFunction): void {
  reply.locals['nonce'] = randomBytes(18).toString('base64');
  next();
}

/** The interface's one page, with the word of this answer put in. */
export function page(web: string): (http: Request, reply: Response) => Promise<void> {
  const template = readFile(join(web, 'index.html'), 'utf8');
  template.catch(() => undefined);
  return async (_http, reply) => {
    const html = (await template).replace(PLACE, String(reply.locals['nonce']));
    reply.set('Cache-Control', 'no-store').type('html').send(html);
  };
}
