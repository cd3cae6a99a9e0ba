import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

/** Where things lie: `root` is the checkout, `data` the folder of what is kept. */
export function paths(root: string, data: string) {
  return {
    database: join(data, 'database'),
    images: join(data, 'images'),
    photos: join(data, 'photos'),
    objects: join(data, 'objects'),
    migrations: join(root, 'packages/server/src/sql/migrations'),
    emptyDatabase: join(root, 'dist/empty-database'),
    compilerWorker: pathToFileURL(join(root, 'dist/compilerWorker.mjs')),
    readerWorker: pathToFileURL(join(root, 'dist/readerWorker.mjs')),
  };
}
