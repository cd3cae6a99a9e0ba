import { LONGEST_DUMP, LONGEST_LINE } from '../text/limits';
import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import {
  type CodeLine,
  type Dialect,
  type DialectLine,
  type DialectValue,
  dialectSchema,
  type ReportUnits,
  textPattern,
  type TextLine,
} from './dialect';
import { SHIPPED_DIALECTS } from './shippedDialects';

/** One value read out of a settings report, as it was written. */
export interface DumpValue {
  /** The kit's option key where there is one. */
  key: string;
  axis?: string;
  tool?: number;
  value: number;
  unit: string;
  line: number;
  /** What it is called where the kit has no option for it. */
  name?: string;
}
export interface Dump {
  values: DumpValue[];
  /** `from` is where the line itself begins, behind what every line of the report begins with. */
  unread: { line: number; text: string; from?: number }[];
}

/** The command, after any prefix that does not end in a letter or digit (`echo:`, `setting `, a time). */
const COMMAND = /(?:^|[^A-Za-z0-9.])(?:[Nn]\d+\s*)?([GMgm])(\d{1,4})(?=$|[\s*A-Za-z])/;
const WORD = /\s*([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))?/y;

/** Dialects made ready for reading: commands by name, texts as patterns. */
interface Reader {
  codes: Map<string, CodeLine>;
  texts: { line: TextLine; pattern: RegExp }[];
}

function readerOf(dialects: readonly Dialect[]): Reader {
  const lines = dialects.flatMap((dialect) => dialect.lines);
  const isCode = (line: DialectLine): line is CodeLine => 'code' in line;
  return {
    codes: new Map(lines.filter(isCode).map((line) => [line.code, line])),
    texts: lines
      .filter((line): line is TextLine => !isCode(line))
      .map((line) => ({ line, pattern: textPattern(line.text) })),
  };
}

/**
 * Reads a settings report by its dialects (the shipped ones when none are given): whatever stands before a command,
 * comments, line numbers and checksums are passed over; a filament diameter in force makes the extruder's values
 * volumetric. Values are as written. Every line that is neither read nor blank nor a comment is listed in `unread`,
 * the noise of a booting board too. Longest text: 1 000 000 characters; lines over 400 are not read.
 */
export const parseDump = calculation<{ text: string; dialects?: Dialect[] }, Dump>(
  'parseDump',
  () =>
    Joi.object({
      text: Joi.string().allow('').max(LONGEST_DUMP),
      dialects: Joi.array().items(dialectSchema()).max(50).optional(),
    }),
  ({ text, dialects = SHIPPED_DIALECTS }) => {
    const reader = readerOf(dialects);
    const units: ReportUnits = { len: 'mm', temp: '°C' };
    const values: DumpValue[] = [];
    const unread: Dump['unread'] = [];
    const lines = text.split(/\r\n|\r|\n/);
    const prefixes = new Set(lines.filter(isReadable).map(prefixOf));
    lines.forEach((line, index) => {
      if (!isReadable(line)) return void unread.push({ line: index + 1, text: line });
      const read = isComment(line, prefixes) ? [] : readLine(line, index + 1, units, reader);
      if (read !== 'unread') return void values.push(...read);
      const from = beginning(line, prefixes);
      unread.push({ line: index + 1, text: line, ...(from > 0 && { from }) });
    });
    return { values: inVolumeWhereSo(values), unread };
  },
);

/** A long line is no setting, and looking into it could take time with the square of its length. */
const isReadable = (line: string) => line.length <= LONGEST_LINE;

/** Where a line begins behind what the report's other lines begin with. */
function beginning(line: string, prefixes: ReadonlySet<string | undefined>): number {
  for (let from = Math.min(line.length, LONGEST_PREFIX); from > 0; from -= 1)
    if (
      /\s/.test(line[from - 1] ?? '') &&
      prefixes.has(maskOf(line.slice(0, from))) &&
      maskOf(line.slice(0, from))
    )
      return from + (/^\s*/.exec(line.slice(from))?.[0].length ?? 0);
  return 0;
}
const LONGEST_PREFIX = 60;

/** What stands before a line's command, digits made alike: what every line of a report begins with. */
function prefixOf(line: string): string | undefined {
  const found = COMMAND.exec(line);
  return found ? maskOf(line.slice(0, found.index + found[0].search(/[GMgm]/))) : undefined;
}
const maskOf = (text: string) => text.trim().replace(/\d/g, '0');

/** Nothing, or nothing but a comment behind the prefix that the report's other lines have. */
function isComment(line: string, prefixes: ReadonlySet<string | undefined>): boolean {
  const before = line
    .replace(/;.*$/, '')
    .replace(/\([^)]*\)/g, ' ')
    .trim();
  if (before === '') return true;
  if (before === line.trim()) return false;
  return prefixes.has(maskOf(before)) || /^\w+:$/.test(before);
}

/** Bytes of a booting board: a line that holds some may have lost others. */
const NOISE = /[\0-\x08\x0e-\x1f\ufffd]/; // eslint-disable-line no-control-regex

/** The values of one line; `unread` when it holds something that is not understood. */
function readLine(line: string, number: number, units: ReportUnits, reader: Reader): DumpValue[] | 'unread' {
  if (NOISE.test(line)) return 'unread';
  const code = line.replace(/;.*$/, '').replace(/\([^)]*\)/g, ' ');
  const read = readCode(code, number, units, reader);
  return read === 'unread' ? readText(code, number, units, reader) : read;
}

function readCode(
  code: string,
  number: number,
  units: ReportUnits,
  { codes }: Reader,
): DumpValue[] | 'unread' {
  const found = COMMAND.exec(code);
  if (!found) return 'unread';
  const command = codes.get(`${(found[1] ?? '').toUpperCase()}${Number(found[2])}`);
  if (!command) return 'unread';
  const rest = code
    .slice(found.index + found[0].length)
    .replace(/\*\d*\s*$/, '')
    .toUpperCase();
  const words = wordsOf(rest);
  if (!words) return 'unread';
  if (!command.sets) return valuesOf(command, words, number, units);
  if (words.length > 0) return 'unread';
  Object.assign(units, command.sets);
  return [];
}

function readText(
  code: string,
  number: number,
  units: ReportUnits,
  { texts }: Reader,
): DumpValue[] | 'unread' {
  for (const { line, pattern } of texts) {
    const numbers = pattern.exec(code)?.slice(1);
    if (!numbers) continue;
    Object.assign(units, line.sets);
    return numbers.flatMap((text, index) => {
      const told = line.values?.[index];
      return told ? [valueOf(told, Number(text), number, units)] : [];
    });
  }
  return 'unread';
}

/** What belongs to an axis, whichever way the dialect wrote its key. */
const AXIS_OF =
  /^(?:steps|accel|speed|current|home\.shift|tool\.offset|corner\.jolt|probe\.offset)\.([xyze])$/;

function valueOf(
  told: DialectValue,
  value: number,
  line: number,
  units: ReportUnits,
  letter = '',
): DumpValue {
  const put = (text: string, axis = letter.toLowerCase()) =>
    text.replace('{axis}', axis).replace('{len}', units.len).replace('{temp}', units.temp);
  const key = put(told.key);
  const axis = AXIS_OF.exec(key)?.[1];
  return {
    key,
    ...(axis && { axis }),
    value: value + 0,
    unit: put(told.unit),
    line,
    ...(told.name && { name: put(told.name, letter.toUpperCase()) }),
  };
}

interface Word {
  letter: string;
  value?: number;
}

/** `X80 Y-2.5` as letters and numbers; undefined when anything else stands there. */
function wordsOf(text: string): Word[] | undefined {
  const words: Word[] = [];
  const end = text.trimEnd().length;
  WORD.lastIndex = 0;
  while (WORD.lastIndex < end) {
    const match = WORD.exec(text);
    if (!match) return undefined;
    const [, letter = '', value] = match;
    words.push(value === undefined ? { letter } : { letter, value: Number(value) });
  }
  return words;
}

function valuesOf(
  command: CodeLine,
  words: Word[],
  line: number,
  units: ReportUnits,
): DumpValue[] | 'unread' {
  const told = (letter: string) => command.words?.find((entry) => entry.letters.includes(letter));
  const tool = words.find(({ letter }) => command.tool?.includes(letter) && !told(letter));
  const values: DumpValue[] = [];
  for (const word of words) {
    if (word === tool) continue;
    const read = told(word.letter);
    if (!read || word.value === undefined) return 'unread';
    values.push({
      ...valueOf(read, word.value, line, units, word.letter),
      ...(tool?.value !== undefined && { tool: tool.value }),
    });
  }
  return values.length > 0 ? values : 'unread';
}

/** With a filament diameter in force, what the extruder moves is counted in mm³ (or in³). */
function inVolumeWhereSo(values: DumpValue[]): DumpValue[] {
  const diameters = values.filter((entry) => entry.key === 'filament.diameter');
  const switches = values.filter((entry) => entry.key === 'filament.volumetric');
  const of = (list: DumpValue[], tool: number | undefined) =>
    list.findLast((entry) => entry.tool === tool) ?? list.findLast((entry) => entry.tool === undefined);
  const volumetric = (tool: number | undefined) =>
    (of(diameters, tool)?.value ?? 0) > 0 && of(switches, tool)?.value !== 0;
  return values.map((entry) =>
    entry.axis === 'e' && volumetric(entry.tool)
      ? { ...entry, unit: entry.unit.replace(/\b(mm|in)\b/, '$1³') }
      : entry,
  );
}

/** Why a text cannot be a settings report at all, or undefined when something can be read in it. */
export function dumpRefusal(text: string, dialects?: Dialect[]): string | undefined {
  if (text.length > LONGEST_DUMP)
    return `this text has ${text.length} characters; a settings report has a few thousand, and at most ${LONGEST_DUMP} are read`;
  if (text.trim() === '') return 'this text is empty';
  if (parseDump({ text, ...(dialects && { dialects }) }).values.length > 0) return undefined;
  const noise = text.split('\n').filter((line) => NOISE.test(line)).length;
  return noise > 0
    ? 'this is not text, or all of it is noise; a settings report has lines such as M92 X100 Y100'
    : 'no setting was found; a settings report has lines such as M92 X100 Y100';
}
