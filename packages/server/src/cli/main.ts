import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { fitCommand } from './fitCommand';
import { exportCommand, importCommand } from './archiveCommands';
import { benchCommand } from './benchCommand';
import { buildCommand } from './buildCommand';
import { calcCommand } from './calcCommand';
import { checkCommand } from './checkCommand';
import type { Command } from './command';
import { checkDataCommand } from './checkDataCommand';
import { dumpCommand } from './dumpCommand';
import { serveCommand } from './serveCommand';
import { wireCommand } from './wireCommand';

const COMMANDS: Record<string, { usage: string; run: Command }> = {
  demo: {
    usage: 'demo [--port N]             the product with demo data',
    run: serveCommand({ demo: true, folder: 'demo', port: 4620 }),
  },
  start: {
    usage: 'start [--port N]            the product with your own data',
    run: serveCommand({ demo: false, folder: 'own', port: 4621 }),
  },
  check: { usage: 'check FILE [--json]         findings for a machine file', run: checkCommand },
  wire: {
    usage:
      'wire FILE [--board ID[@REV]] [--json | --csv | --pins]  the harness, or the swap plan to another board',
    run: wireCommand,
  },
  build: { usage: 'build FILE --out DIR [--json]  firmware files, image, sizes and log', run: buildCommand },
  fit: {
    usage: 'fit FILE [--keep KEYS] [--worth KEY=N,…] [--json]  what to leave out so that the image fits',
    run: fitCommand,
  },
  bench: {
    usage: 'bench FILE [--seed N] [--json]  the virtual machine of a machine file; lines from standard input',
    run: benchCommand,
  },
  export: {
    usage: 'export FILE [--machine ID] [--of own|demo]  a machine, or the whole shelf, as one archive',
    run: exportCommand,
  },
  import: {
    usage: 'import FILE [--as-another|--replace] [--of own|demo]  an archive, taken in',
    run: importCommand,
  },
  dump: { usage: 'dump FILE [--dialect FILE] [--json]  a settings report, read', run: dumpCommand },
  'check-data': {
    usage:
      'check-data [own | demo] [--fall-back COPY] [--json]  whether what is kept is whole; mends what it can',
    run: checkDataCommand,
  },
  calc: { usage: 'calc NAME JSON | --list     one calculation', run: calcCommand },
};

const root = process.env['JOLLY_ROOT'] ?? resolve(dirname(fileURLToPath(import.meta.url)), '..');
const [name = '', ...words] = process.argv.slice(2);
const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
if (!command) {
  if (name) console.error(`there is no command "${name}"`);
  console.error(
    [
      'usage:',
      ...Object.values(COMMANDS).map((entry) => `  ./jolly ${entry.usage}`),
      '  ./jolly test                        all checks and tests',
    ].join('\n'),
  );
  process.exitCode = 2;
} else {
  const data = process.env['JOLLY_DATA'] ?? join(root, 'data');
  process.exitCode = await command.run({ words, root, data });
}
