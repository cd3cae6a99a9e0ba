// Makes dist/: the server and command line, the compiler's process, the readers' thread, the interface, and an empty database to copy.
import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { PGlite } from '@electric-sql/pglite';
import { build as bundle } from 'esbuild';
import { build as buildWeb } from 'vite';

const node = { bundle: true, platform: 'node', format: 'esm', target: 'node20', logLevel: 'warning' };
// Our own packages are bundled, everything from npm is left to node_modules.
const external = [
  'express',
  'helmet',
  'compression',
  'joi',
  'uf2',
  'yaml',
  'joi-to-json',
  'sharp',
  '@electric-sql/pglite',
  '@yowasp/clang',
];

async function emptyDatabase() {
  if (existsSync('dist/empty-database')) return;
  await rm('dist/empty-database.part', { recursive: true, force: true });
  const db = await PGlite.create('dist/empty-database.part');
  await db.close();
  await rename('dist/empty-database.part', 'dist/empty-database');
}

// On a fresh clone there is no dist/ yet, and nothing below waits for the others to make it.
await mkdir('dist', { recursive: true });
await Promise.all([
  bundle({ ...node, external, entryPoints: ['packages/server/src/cli/main.ts'], outfile: 'dist/jolly.mjs' }),
  bundle({
    ...node,
    external,
    entryPoints: ['packages/server/src/build/compilerWorker.ts'],
    outfile: 'dist/compilerWorker.mjs',
  }),
  bundle({
    ...node,
    external,
    entryPoints: ['packages/server/src/reading/readerWorker.ts'],
    outfile: 'dist/readerWorker.mjs',
  }),
  buildWeb({ root: 'packages/web', logLevel: 'warn' }),
  emptyDatabase(),
]);
