// Makes dist/: the server and command line, the compiler's process, the readers' thread, the interface, and an empty database to copy.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
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

/** Server and command line in one file, named by its text, and the small one that starts it (cli/launch.ts). */
async function program() {
  const outfile = 'dist/program.cjs';
  await bundle({
    ...node,
    external,
    format: 'cjs',
    // What was compiled before may only be taken up where nothing is imported later.
    supported: { 'dynamic-import': false },
    entryPoints: ['packages/server/src/cli/main.ts'],
    outfile,
  });
  const hash = createHash('sha256')
    .update(await readFile(outfile))
    .digest('hex')
    .slice(0, 12);
  const named = `program-${hash}.cjs`;
  const old = (await readdir('dist')).filter((name) => /^program-/.test(name));
  for (const name of old) await rm(join('dist', name));
  await rename(outfile, join('dist', named));
  await bundle({
    ...node,
    define: { PROGRAM: JSON.stringify(named) },
    entryPoints: ['packages/server/src/cli/launch.ts'],
    outfile: 'dist/jolly.mjs',
  });
}

/** Starts the demo once and asks for the shelf, so that what a start needs is kept compiled. */
async function keepCompiled() {
  const data = await mkdtemp(join(tmpdir(), 'jolly-build-'));
  const child = spawn(process.execPath, ['dist/jolly.mjs', 'demo', '--port', '0'], {
    env: { ...process.env, JOLLY_ROOT: process.cwd(), JOLLY_DATA: data, JOLLY_KEEP_COMPILED: '1' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  try {
    const said = await Promise.race([
      new Promise((resolve) => child.stdout.once('data', (text) => resolve(String(text)))),
      ended.then((code) => `the built program ended with ${code}`),
    ]);
    const [address] = /http:\S+/.exec(said) ?? [];
    if (!address) throw new Error(said);
    await (await fetch(`${address}/api/machines`)).text();
  } finally {
    child.kill('SIGTERM');
    await ended;
    await rm(data, { recursive: true, force: true });
  }
}

// On a fresh clone there is no dist/ yet, and nothing below waits for the others to make it.
await mkdir('dist', { recursive: true });
await Promise.all([
  program(),
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
// Without it everything works, and each start takes a third of a second longer.
await keepCompiled().catch((error) => console.error(`The program is not kept compiled: ${error.message}`));
