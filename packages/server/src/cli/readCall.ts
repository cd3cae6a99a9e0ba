import { parseArgs } from 'node:util';
import { badInput, type Call, type Command } from './command';

/** What every command knows without saying so. */
const EVERYWHERE = new Set(['help']);

/** Whether help is asked for, wherever that stands. */
export const asksForHelp = (words: readonly string[]): boolean =>
  words.slice(0, endOf(words)).some((word) => word === '--help' || word === '-h');
export const asksForJson = (words: readonly string[]): boolean =>
  words.slice(0, endOf(words)).includes('--json');
/** After `--` a word is never a flag. */
const endOf = (words: readonly string[]): number =>
  words.includes('--') ? words.indexOf('--') : words.length;

/**
 * Reads the words of a call as its command takes them.
 * @throws {BadInput} naming an unknown flag, a value that is missing or not wanted, a word too few or too many
 */
export function readCall(
  name: string,
  { options, takes }: Pick<Command, 'options' | 'takes'>,
  words: readonly string[],
): Pick<Call, 'words' | 'value' | 'has'> {
  const { tokens } = parseArgs({
    args: [...words],
    strict: false,
    tokens: true,
    allowPositionals: true,
    options: Object.fromEntries(
      Object.entries(options).map(([key, { value }]) => [key, { type: value === undefined ? 'boolean' : 'string' } as const]),
    ),
  }); // prettier-ignore
  const values = new Map<string, string>();
  const flags = new Set<string>();
  const rest: string[] = [];
  for (const token of tokens) {
    if (token.kind === 'positional') rest.push(token.value);
    if (token.kind !== 'option' || EVERYWHERE.has(token.name)) continue;
    const option = Object.hasOwn(options, token.name) ? options[token.name] : undefined;
    if (!option) return badInput(`${name}: unknown flag ${token.rawName}; ${knownWords(options)}`);
    if (values.has(token.name) || flags.has(token.name)) return badInput(`${name}: ${token.rawName} is given twice`); // prettier-ignore
    if (option.value === undefined) {
      if (token.value !== undefined) return badInput(`${name}: ${token.rawName} takes no value; it has “${token.value}”`); // prettier-ignore
      flags.add(token.name);
    } else if (token.value === undefined || token.value === '' || (!token.inlineValue && token.value.startsWith('--')))
      return badInput(`${name}: ${token.rawName} needs ${option.value} behind it: ${option.help}`);
    else values.set(token.name, token.value);
  } // prettier-ignore
  const needed = takes.filter((word) => !word.startsWith('['));
  const missing = needed[rest.length];
  if (missing !== undefined) return badInput(`${name}: ${missing} is missing; ${usageOf(name, takes)}`);
  const surplus = rest[takes.length];
  if (surplus !== undefined) return badInput(`${name}: “${surplus}” is one word too many; ${usageOf(name, takes)}`); // prettier-ignore
  return { words: rest, value: (key) => values.get(key), has: (flag) => flags.has(flag) };
}

const knownWords = (options: Command['options']): string => {
  const known = Object.keys(options).map((key) => `--${key}`);
  return known.length === 0 ? 'it knows none' : `it knows ${known.join(', ')}`;
};
const usageOf = (name: string, takes: readonly string[]): string => `./jolly ${[name, ...takes].join(' ')}`;

/** The help of one command. */
export function helpOf(name: string, { does, takes, options, more }: Command): string {
  const rows = Object.entries(options).map(([key, { value, help }]): [string, string] => [
    `--${key}${value === undefined ? '' : ` ${value}`}`,
    help,
  ]);
  const wide = Math.max(0, ...rows.map(([flag]) => flag.length));
  return [
    `${usageOf(name, takes)}${rows.length > 0 ? ' [flags]' : ''}`,
    '',
    `${does.charAt(0).toUpperCase()}${does.slice(1)}.`,
    ...(more === undefined ? [] : ['', more]),
    ...(rows.length > 0 ? ['', ...rows.map(([flag, help]) => `  ${flag.padEnd(wide)}  ${help}`)] : []),
    '',
    'FILE may be - for standard input where a text is read. It ends with 0 when all is fine, 1 when something stops, 2 on bad input.',
  ].join('\n');
}
