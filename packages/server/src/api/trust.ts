import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { Refusal } from '@jolly/contract/refusal';

/** Refuses requests that name another host (rebinding) or come from another site. */
export function onlyFromHere(http: Request, _reply: Response, next: NextFunction): void {
  const host = (http.headers.host ?? '').replace(/:\d+$/, '');
  if (host !== '127.0.0.1' && host !== 'localhost')
    throw new Refusal('wrong-host', `this server answers 127.0.0.1 and localhost only, not "${host}"`);
  const { origin } = http.headers;
  if (origin !== undefined && hostOf(origin) !== http.headers.host) {
    throw new Refusal('wrong-origin', `requests from ${origin} are refused`);
  }
  next();
}

/** The host an origin names; undefined where it is no address. */
function hostOf(origin: string): string | undefined {
  return URL.canParse(origin) ? new URL(origin).host : undefined;
}

// The library types the reply of Node; here it is Express's.
const nonceOf = (_http: unknown, reply: unknown) => `'nonce-${String((reply as Response).locals['nonce'])}'`;

/** No inline script or style, nothing from elsewhere; WebAssembly is allowed because the bench runs firmware. */
export const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      workerSrc: ["'self'"],
      styleSrc: ["'self'", nonceOf],
      imgSrc: ["'self'", 'data:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      frameAncestors: ["'none'"],
      formAction: ["'self'"],
    },
  },
  strictTransportSecurity: false,
});
