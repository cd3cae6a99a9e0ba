import express, { type Express } from 'express';
import { handlers } from './api/handlers';
import { mount } from './api/mount';
import { freshNonce, page } from './api/page';
import { headers, onlyFromHere } from './api/trust';
import type { Work } from './api/ofBuilds';
import type { Context } from './context';

/** The whole server: the API, and the built interface when `web` names its folder. */
export function createApp(context: Context, work: Work, web?: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(onlyFromHere, freshNonce, headers);
  if (web) {
    app.use(express.static(web, { index: false, setHeaders: cacheHashed }));
    app.get(/^\/(?!api\/|assets\/)/, page(web));
  }
  mount(app, handlers(context, work), context.data);
  return app;
}

/** Built assets carry a hash in their name and never change. */
function cacheHashed(reply: express.Response, path: string): void {
  if (path.includes('/assets/')) reply.set('Cache-Control', 'public, max-age=31536000, immutable');
}
