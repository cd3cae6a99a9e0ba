import compression from 'compression';
import express, { type Express } from 'express';
import { boardEndpoints } from './api/boardEndpoints.js';
import { buildEndpoints } from './api/buildEndpoints.js';
import { type Endpoint, mount } from './api/endpoint.js';
import { dialectEndpoints } from './api/dialectEndpoints.js';
import { editEndpoints } from './api/editEndpoints.js';
import { machineEndpoints } from './api/machineEndpoints.js';
import { openApi } from './api/openapi.js';
import { boardTypeEndpoints } from './api/boardTypeEndpoints.js';
import { jobEndpoints } from './api/jobEndpoints.js';
import { keptEndpoints } from './api/keptEndpoints.js';
import { freshNonce, page } from './api/page.js';
import { photoEndpoints } from './api/photoEndpoints.js';
import { headers, onlyFromHere } from './api/trust.js';
import type { Builds } from './build/builds.js';
import type { Context } from './context.js';

/** Server-sent events must not wait in a compressor's buffer. */
const compressible = (http: express.Request) => !http.path.endsWith('/events');

/** The whole server: the API, and the built interface when `web` names its folder. */
export function createApp(context: Context, builds: Builds, web?: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(onlyFromHere, freshNonce, headers, compression({ filter: compressible }));
  const endpoints: Endpoint[] = [
    { method: 'get', path: '/health', summary: 'Whether the server answers', run: () => ({ ok: true }) },
    ...machineEndpoints(context),
    ...editEndpoints(context),
    ...buildEndpoints(context, builds),
    ...boardEndpoints(context),
    ...jobEndpoints(context),
    ...keptEndpoints(context),
    ...photoEndpoints(context),
    ...boardTypeEndpoints(context),
    ...dialectEndpoints(context),
  ];
  endpoints.push({
    method: 'get',
    path: '/openapi.json',
    summary: 'This document',
    run: () => openApi(endpoints),
  });
  if (web) {
    app.use(express.static(web, { index: false, setHeaders: cacheHashed }));
    app.get(/^\/(?!api\/|assets\/)/, page(web));
  }
  mount(app, endpoints, context.data);
  return app;
}

/** Built assets carry a hash in their name and never change. */
function cacheHashed(reply: express.Response, path: string): void {
  if (path.includes('/assets/')) reply.set('Cache-Control', 'public, max-age=31536000, immutable');
}
