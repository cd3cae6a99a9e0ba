import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { exportCommand, importCommand } from './archiveCommands';
import { benchCommand } from './benchCommand';
import { buildCommand } from './buildCommand';
import { calcCommand } from './calcCommand';
import { checkCommand } from './checkCommand';
import { checkDataCommand } from './checkDataCommand';
import { BadInput, type Command, EXIT, unreachable } from './command';
import { dumpCommand } from './dumpCommand';
import { fitCommand } from './fitCommand';
import { asksForHelp, asksForJson, helpOf, readCall } from './readCall';
import { serveCommand } from './serveCommand';
import { wireCommand } from './wireCommand';

const COMMANDS: Readonly<Record<string, Command>> = {
  demo: serveCommand({ does: 'the product with demo data', demo: true, folder: 'demo', port: 4620 }),
  start: serveCommand({ does: 'the product with your own data', demo: false, folder: 'own', port: 4621 }),
  check: checkCommand,
  wire: wireCommand,
  build: buildCommand,
  fit: fitCommand,
  bench: benchCommand,
  export: exportCommand,
  import: importCommand,
  dump: dumpCommand,
  'check-data': checkDataCommand,
  calc: calcCommand,
};

const root = process.env['JOLLY_ROOT'] ?? resolve(dirname(fileURLToPath(import.meta.url)), '..');
const data = process.env['JOLLY_DATA'] ?? join(root, 'data');
const [name = '', ...words] = process.argv.slice(2);
process.exitCode = await main();

async function main(): Promise<number> {
  if (name === '--version') return said(versionOf(root));
  if (name === 'help' || name === '--help' || name === '-h') return said(overview());
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) return refused(new BadInput(`${name === '' ? 'a command is missing' : `there is no command “${name}”`}\n${overview()}`), false); // prettier-ignore
  if (asksForHelp(words)) return said(helpOf(name, command));
  try {
    return await command.run({ ...readCall(name, command, words), root, data });
  } catch (error) {
    const why = unreachable(error);
    if (error instanceof BadInput) return refused(error, asksForJson(words) || name === 'calc');
    if (why) return refused(new BadInput(why), asksForJson(words));
    throw error;
  }
}

function said(text: string): number {
  console.log(text);
  return EXIT.fine;
}

/** What is wrong goes to standard error, so that what comes out stays clean. */
function refused({ message, key }: BadInput, json: boolean): number {
  console.error(json ? JSON.stringify({ error: { ...(key !== undefined && { key }), message } }) : message);
  return EXIT.badInput;
}

function versionOf(checkout: string): string {
  // Our own file, with a version in it.
  const { version } = JSON.parse(readFileSync(join(checkout, 'package.json'), 'utf8')) as { version: string };
  return version;
}

function overview(): string {
  const rows = Object.entries(COMMANDS).map(([called, { takes, does }]) => [[called, ...takes].join(' '), does] as const); // prettier-ignore
  rows.push(['test [--only unit|browser|lint]', 'all checks and tests']);
  const wide = Math.max(...rows.map(([usage]) => usage.length));
  return [
    'usage:',
    ...rows.map(([usage, does]) => `  ./jolly ${usage.padEnd(wide)}  ${does}`),
    '',
    './jolly COMMAND --help tells its flags; ./jolly --version the version.',
  ].join('\n');
}
