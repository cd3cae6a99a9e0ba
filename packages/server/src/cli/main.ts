import { certain } from '@jolly/core/tree/certain';
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { BadInput, type Command, EXIT, unreachable } from './command';
import { asksForHelp, asksForJson, helpOf, readCall } from './readCall';

/** Each is loaded when it is called: to load them all takes longer than most of them do. */
const COMMANDS: Readonly<Record<string, () => Promise<Command>>> = {
  demo: async () => (await import('./serveCommand')).demoCommand,
  start: async () => (await import('./serveCommand')).startCommand,
  check: async () => (await import('./checkCommand')).checkCommand,
  wire: async () => (await import('./wireCommand')).wireCommand,
  build: async () => (await import('./buildCommand')).buildCommand,
  fit: async () => (await import('./fitCommand')).fitCommand,
  bench: async () => (await import('./benchCommand')).benchCommand,
  export: async () => (await import('./archiveCommands')).exportCommand,
  import: async () => (await import('./archiveCommands')).importCommand,
  dump: async () => (await import('./dumpCommand')).dumpCommand,
  'check-data': async () => (await import('./checkDataCommand')).checkDataCommand,
  calc: async () => (await import('./calcCommand')).calcCommand,
};

const root =
  process.env['JOLLY_ROOT'] ?? resolve(dirname(certain(process.argv[1], 'the started file')), '..');
const data = process.env['JOLLY_DATA'] ?? join(root, 'data');
const [name = '', ...words] = process.argv.slice(2);
// A program that ends before it has said how did not end well.
process.exitCode = EXIT.stopped;
void main().then((code) => (process.exitCode = code));

async function main(): Promise<number> {
  if (name === '--version') return said(versionOf(root));
  if (name === 'help' || name === '--help' || name === '-h') return said(await overview());
  const load = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!load) return refused(new BadInput(`${name === '' ? 'a command is missing' : `there is no command “${name}”`}\n${await overview()}`), false); // prettier-ignore
  const command = await load();
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

async function overview(): Promise<string> {
  const rows = await Promise.all(
    Object.entries(COMMANDS).map(async ([called, load]): Promise<[string, string]> => {
      const { takes, does } = await load();
      return [[called, ...takes].join(' '), does];
    }),
  );
  rows.push(['test [--only unit|browser|lint]', 'all checks and tests']);
  const wide = Math.max(...rows.map(([usage]) => usage.length));
  return [
    'usage:',
    ...rows.map(([usage, does]) => `  ./jolly ${usage.padEnd(wide)}  ${does}`),
    '',
    './jolly COMMAND --help tells its flags; ./jolly --version the version.',
  ].join('\n');
}
