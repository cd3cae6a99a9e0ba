import Joi from 'joi';
import { calculation } from '../calculation/calculation';

/** One value read out of a settings report, as it was written. */
export interface DumpValue {
  /** The kit's option key where there is one. */
  key: string;
  axis?: string;
  tool?: number;
  value: number;
  unit: string;
  line: number;
}
export interface Dump {
  values: DumpValue[];
  unread: { line: number; text: string }[];
}

/** Longest report read, in characters. A real one has a few thousand. */
export const LONGEST_DUMP = 1_000_000;

/** How a letter of a command is read. `{axis}`, `{len}` (mm or in) and `{temp}` are filled in. */
interface Field {
  letters: string;
  key: string;
  unit: string;
}
interface Command {
  fields: Field[];
  /** Letters that name the tool, heater or preset the line speaks of. */
  toolBy?: string;
}

const AXES = 'XYZE';
const field = (letters: string, key: string, unit: string): Field => ({ letters, key, unit });
const pid = (body: string): Field[] =>
  ['P', 'I', 'D'].map((letter) => field(letter, `pid.${body}.${letter.toLowerCase()}`, ''));

/** The settings lines that are understood. */
const COMMANDS: Record<string, Command> = {
  M92: { fields: [field(AXES, 'steps.{axis}', 'steps/{len}')], toolBy: 'T' },
  M200: {
    fields: [field('D', 'filament.diameter', '{len}'), field('S', 'filament.volumetric', '')],
    toolBy: 'T',
  },
  M201: { fields: [field(AXES, 'accel.{axis}', '{len}/s²')], toolBy: 'T' },
  M203: { fields: [field(AXES, 'speed.{axis}', '{len}/s')], toolBy: 'T' },
  M204: {
    fields: [
      field('P', 'accel.printing', '{len}/s²'),
      field('R', 'accel.retract', '{len}/s²'),
      field('T', 'accel.travel', '{len}/s²'),
    ],
  },
  M205: {
    fields: [
      field(AXES, 'jolt.{axis}', '{len}/s'),
      field('J', 'cornering.deviation', '{len}'),
      field('S', 'speed.printing.min', '{len}/s'),
      field('T', 'speed.travel.min', '{len}/s'),
      field('B', 'segment.min', 'µs'),
    ],
  },
  M206: { fields: [field('XYZ', 'home.shift.{axis}', '{len}')] },
  M218: { fields: [field('XYZ', 'tool.offset.{axis}', '{len}')], toolBy: 'T' },
  M301: { fields: pid('hotend'), toolBy: 'ET' },
  M304: { fields: pid('bed') },
  M309: { fields: pid('chamber') },
  M145: {
    fields: [
      field('H', 'preset.hotend', '{temp}'),
      field('B', 'preset.bed', '{temp}'),
      field('F', 'preset.fan', ''),
    ],
    toolBy: 'S',
  },
  M211: { fields: [field('S', 'limits.soft', '')] },
  M413: { fields: [field('S', 'resume.on', '')] },
  M420: { fields: [field('S', 'map.on', ''), field('Z', 'map.fade', '{len}')] },
  M603: { fields: [field('U', 'change.unload', '{len}'), field('L', 'change.load', '{len}')], toolBy: 'T' },
  M851: { fields: [field('XYZ', 'probe.offset.{axis}', '{len}')] },
  M900: { fields: [field('K', 'lead.time', 's')], toolBy: 'T' },
  M906: { fields: [field(AXES, 'current.{axis}', 'mA')], toolBy: 'T' },
  M914: { fields: [field('XYZ', 'stall.{axis}', '')] },
};

const TEMPERATURE: Record<string, string> = { C: '°C', F: '°F', K: 'K' };
/** The command, after any prefix that does not end in a letter or digit (`echo:`, `setting `, a time). */
const COMMAND = /(?:^|[^A-Za-z0-9.])(?:[Nn]\d+\s*)?([GMgm])(\d{1,4})(?=$|[\s*A-Za-z])/;
const WORD = /\s*([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))?/y;

interface Units {
  len: 'mm' | 'in';
  temp: string;
}

/**
 * Reads a settings report in G-code lines: whatever stands before the command, comments, line numbers and
 * checksums are passed over; G20/G21 and M149 set the units of what follows; M200 with a diameter makes the
 * extruder's values volumetric. Values are as written. Every line that is neither read nor blank nor a comment
 * is listed in `unread`. Longest text: 1 000 000 characters.
 */
export const parseDump = calculation<{ text: string }, Dump>(
  'parseDump',
  Joi.object({ text: Joi.string().allow('').max(LONGEST_DUMP) }),
  ({ text }) => {
    const units: Units = { len: 'mm', temp: '°C' };
    const values: DumpValue[] = [];
    const unread: Dump['unread'] = [];
    const lines = text.split(/\r\n|\r|\n/);
    const prefixes = new Set(lines.map(prefixOf));
    lines.forEach((line, index) => {
      const read = isComment(line, prefixes) ? [] : readLine(line, index + 1, units);
      if (read === 'unread') unread.push({ line: index + 1, text: line });
      else values.push(...read);
    });
    return { values: inVolumeWhereSo(values), unread };
  },
);

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

/** The values of one line; `unread` when it holds something that is not understood. */
function readLine(line: string, number: number, units: Units): DumpValue[] | 'unread' {
  const code = line.replace(/;.*$/, '').replace(/\([^)]*\)/g, ' ');
  const found = COMMAND.exec(code);
  if (!found) return 'unread';
  const name = `${found[1]!.toUpperCase()}${Number(found[2])}`;
  const rest = code
    .slice(found.index + found[0].length)
    .replace(/\*\d*\s*$/, '')
    .toUpperCase();
  if (name === 'G20' || name === 'G21') {
    units.len = name === 'G20' ? 'in' : 'mm';
    return rest.trim() === '' ? [] : 'unread';
  }
  const words = wordsOf(rest);
  if (!words) return 'unread';
  if (name === 'M149') {
    const unit = TEMPERATURE[words[0]?.letter ?? ''];
    if (!unit) return 'unread';
    units.temp = unit;
    return [];
  }
  const command = COMMANDS[name];
  return command ? valuesOf(command, words, number, units) : 'unread';
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

function valuesOf(command: Command, words: Word[], line: number, units: Units): DumpValue[] | 'unread' {
  const toolWord = words.find((word) => command.toolBy?.includes(word.letter) && !isField(command, word));
  const rest = words.filter((word) => word !== toolWord);
  const values: DumpValue[] = [];
  for (const { letter, value } of rest) {
    const read = command.fields.find((entry) => entry.letters.includes(letter));
    if (!read || value === undefined) return 'unread';
    const axis = read.key.includes('{axis}') ? letter.toLowerCase() : undefined;
    values.push({
      key: read.key.replace('{axis}', axis ?? ''),
      ...(axis && { axis }),
      ...(toolWord?.value !== undefined && { tool: toolWord.value }),
      value,
      unit: read.unit.replace('{len}', units.len).replace('{temp}', units.temp),
      line,
    });
  }
  return values.length > 0 ? values : 'unread';
}

const isField = (command: Command, { letter }: Word) =>
  command.fields.some((entry) => entry.letters.includes(letter));

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
export function dumpRefusal(text: string): string | undefined {
  if (text.length > LONGEST_DUMP)
    return `this text has ${text.length} characters; a settings report has a few thousand, and at most ${LONGEST_DUMP} are read`;
  if (text.trim() === '') return 'this text is empty';
  const odd = text.match(/[\0-\x08\x0e-\x1f\ufffd]/g)?.length ?? 0; // eslint-disable-line no-control-regex
  if (odd > text.length / 100) return 'this is not text; a settings report has lines such as M92 X100 Y100';
  return parseDump({ text }).values.length === 0
    ? 'no setting was found; a settings report has lines such as M92 X100 Y100'
    : undefined;
}
