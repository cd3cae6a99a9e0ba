import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { createApp } from './app.js';
import { createBuilds } from './build/builds.js';
import { startCompiler } from './build/compiler.js';
import type { Context } from './context.js';
import { layDemo } from './demo/layDemo.js';
import { folderStore } from './files/byteStore.js';
import { loadCatalogue } from './files/catalogue.js';
import { loadOwnDialect } from './files/ownDialect.js';
import { openDb } from './sql/db.js';
import { listOwnBoards } from './sql/ownBoards.js';
import { paths } from './paths.js';

export interface StartOptions {
  root: string;
  /** Folder for everything that is kept: database, images, objects. */
  data: string;
  port: number;
  demo: boolean;
  now?: () => Date;
}
export interface Started {
  address: string;
  stop(): Promise<void>;
}

/** Starts the product on 127.0.0.1; port 0 takes any free one. */
export async function start({
  root,
  data,
  port,
  demo,
  now = () => new Date(),
}: StartOptions): Promise<Started> {
  const at = paths(root, data);
  const compiler = startCompiler(at.compilerWorker);
  const [db, catalogue, ownDialect] = await Promise.all([
    openDb(at.database, at.migrations, at.emptyDatabase),
    loadCatalogue(root),
    loadOwnDialect(data),
  ]);
  const own = await listOwnBoards(db);
  const context: Context = {
    root,
    data,
    db,
    catalogue: {
      ...catalogue,
      boards: [...catalogue.boards, ...own],
      dialects: [...catalogue.dialects, ownDialect],
    },
    ownBoards: new Set(own.map((board) => `${board.id} ${board.revision}`)),
    images: folderStore(at.images),
    now,
    ...(demo && { drawer: join(root, 'catalogue/demo/drawer') }),
  };
  const builds = createBuilds(context, compiler, folderStore(at.objects));
  await builds.recover();
  if (demo) await layDemo(context);
  const server = await listen(createApp(context, builds, join(root, 'dist/web')).listen(port, '127.0.0.1'));
  // Warming takes both cores for a second: after the first answer, not before it.
  void compiler.warm();
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async stop() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      compiler.close();
      await db.close();
    },
  };
}

function listen(server: Server): Promise<Server> {
  return new Promise((resolve, reject) => {
    server.once('listening', () => resolve(server));
    server.once('error', reject);
  });
}
