import compression from 'compression';
import express, { type Express } from 'express';
import { boardEndpoints } from './api/boardEndpoints';
import { buildEndpoints } from './api/buildEndpoints';
import { type Endpoint, mount } from './api/endpoint';
import { dialectEndpoints } from './api/dialectEndpoints';
import { editEndpoints } from './api/editEndpoints';
import { machineEndpoints } from './api/machineEndpoints';
import { openApi } from './api/openapi';
import { boardTypeEndpoints } from './api/boardTypeEndpoints';
import { jobEndpoints } from './api/jobEndpoints';
import { keptEndpoints } from './api/keptEndpoints';
import { freshNonce, page } from './api/page';
import { photoEndpoints } from './api/photoEndpoints';
import { headers, onlyFromHere } from './api/trust';
import type { Builds } from './build/builds';
import type { Context } from './context';

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
