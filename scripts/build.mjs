// Makes dist/: the server and command line, the compiler's process, the readers' thread, the interface, and an empty database to copy.
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build as bundle } from 'esbuild';
import { build as buildWeb } from 'vite';

const node = { bundle: true, platform: 'node', format: 'esm', target: 'node20', logLevel: 'warning' };
// Bundled, so that a start does not look for a thousand files; what brings files of its own is left to node_modules.
const external = ['sharp', '@electric-sql/pglite', '@yowasp/clang'];
const banner = {
  js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
};

/** Runs something of the server before there is one. */
async function withServerModule(entryPoint, act) {
  const outfile = `dist/${basename(entryPoint, '.ts')}.once.mjs`;
  await bundle({ ...node, external, banner, entryPoints: [entryPoint], outfile });
  await act(await import(pathToFileURL(outfile).href));
  await rm(outfile);
}

/** An empty database with every step of the schema, to be copied at a first start: to make one takes seven seconds. */
async function emptyDatabase() {
  const migrations = 'packages/server/src/sql/migrations';
  const steps = (await readdir(migrations)).sort().join('\n');
  const made = await readFile('dist/empty-database.steps', 'utf8').catch(() => undefined);
  if (made === steps && existsSync('dist/empty-database')) return;
  const partial = 'dist/empty-database.part';
  for (const old of [partial, 'dist/empty-database']) await rm(old, { recursive: true, force: true });
  await withServerModule('packages/server/src/sql/db.ts', async ({ openDb }) => {
    const db = await openDb({ folder: partial, migrations });
    await db.close();
  });
  await rename(partial, 'dist/empty-database');
  await writeFile('dist/empty-database.steps', steps);
}

/** The files of catalogue and demo are read and checked here, once, and not at every start. */
const readFilesOnce = () =>
  Promise.all([
    withServerModule('packages/server/src/files/catalogue.ts', ({ keepCatalogue }) => keepCatalogue('.')),
    withServerModule('packages/server/src/demo/demoFiles.ts', ({ keepDemo }) => keepDemo('.')),
  ]);

/** Sources of the firmware are kept as they came, so that one edited out of turn is found. */
const keepSources = () =>
  withServerModule('packages/server/src/files/kitSources.ts', ({ keepFreshSources }) =>
    keepFreshSources('.', ['lantern']),
  );

// On a fresh clone there is no dist/ yet, and nothing below waits for the others to make it.
await mkdir('dist', { recursive: true });
await rm('dist/pieces', { recursive: true, force: true });
await Promise.all([
  bundle({
    ...node,
    external,
    banner,
    // In pieces: a command loads what it needs, and answers in a quarter of the time.
    splitting: true,
    entryPoints: { jolly: 'packages/server/src/cli/main.ts' },
    outExtension: { '.js': '.mjs' },
    chunkNames: 'pieces/[name]-[hash]',
    outdir: 'dist',
  }),
  bundle({
    ...node,
    external,
    banner,
    entryPoints: ['packages/server/src/build/compilerWorker.ts'],
    outfile: 'dist/compilerWorker.mjs',
  }),
  bundle({
    ...node,
    external,
    banner,
    entryPoints: ['packages/server/src/reading/readerWorker.ts'],
    outfile: 'dist/readerWorker.mjs',
  }),
  buildWeb({ root: 'packages/web', logLevel: 'warn' }),
  emptyDatabase(),
  readFilesOnce(),
  keepSources(),
]);
