import { LONGEST_LINE } from '../text/limits';
import { onOneLine } from '../text/plainText';

/** One line of G-code: its command and the numbers behind its letters. */
export interface GcodeLine {
  /** Counted from 1. */
  line: number;
  text: string;
  /** Such as `G28` or `map take`; undefined for an empty line, a remark, a slicer's own line in braces, or one that the board cannot read. */
  command?: string;
  /** By letter; a letter without a number, or with a slicer's placeholder, has NaN. */
  words: ReadonlyMap<string, number>;
  /** Why the board would not read it. */
  unreadable?: string;
}

/** A remark of its own line; nothing in it ends the line. */
export const gcodeRemark = (text: string): string => `; ${onOneLine(text)}`;

/** Lines, from 1, with words that the slicer fills in: what they become is not known here. */
export function leftToSlicer(text: string): number[] {
  return text.split(/\r?\n/).flatMap((raw, index) => (/[{[<]/.test(saidIn(raw)) ? [index + 1] : []));
}

/** A line without its remarks. */
const saidIn = (raw: string): string =>
  raw
    .slice(0, LONGEST_LINE)
    .replace(/;.*$/, '')
    .replace(/\([^)]*\)/g, '')
    .trim();

/** Takes G-code apart, as the firmware does. Remarks after `;` and in brackets are left out; never throws. */
export function readGcode(text: string): GcodeLine[] {
  return text.split(/\r?\n/).map((raw, index) => {
    const said = saidIn(raw);
    const at = { line: index + 1, text: raw.trim() };
    // Lines in braces are the slicer's own: they never reach the machine as they stand.
    if (said === '' || /^[{[<]/.test(said)) return { ...at, words: new Map() };
    return { ...at, ...(/^[A-Z]/.test(said) ? coded(said) : worded(said)) };
  });
}

type Read = Omit<GcodeLine, 'line' | 'text'>;

/** A command in small words, up to its first value; values are small letters with their numbers. */
function worded(said: string): Read {
  if (/^[gmtn]\d/.test(said))
    return { words: new Map(), unreadable: 'it is written in small letters; the board knows capitals' };
  // What a slicer fills in may have blanks of its own.
  const all = said.replace(FILLED_IN, '{}').split(/\s+/);
  const values = all.findIndex((word) => /^[a-z]=/.test(word));
  const command = (values < 0 ? all : all.slice(0, values)).join(' ');
  const words = new Map<string, number>();
  for (const word of values < 0 ? [] : all.slice(values)) {
    const [, letter = '', value = ''] = NAMED_VALUE.exec(word) ?? [];
    if (letter === '') return { words, unreadable: `“${word}” is no letter with its number` };
    if (words.has(letter.toUpperCase())) return { words, unreadable: `${letter} is there twice` };
    words.set(letter.toUpperCase(), Number(value));
  }
  return { command, words };
}

const FILLED_IN = /\{[^}]*\}|\[[^\]]*\]|<[^>]*>/g;
/** A number as the board reads it, or what a slicer fills in. */
const VALUE = String.raw`[-+]?(?:\d+\.?\d*|\.\d+)|${FILLED_IN.source}`;
const NAMED_VALUE = new RegExp(`^([a-z])=(${VALUE})$`);

/** A letter with its number, and letters behind it, with numbers of their own or alone; blanks do not matter. */
function coded(said: string): Read {
  const [head = '', letter = '', digits = ''] = /^([A-Z])0*(\d+)/.exec(said) ?? [];
  // What else begins with a capital is no command of this kind; a name is looked for as it stands.
  if (head === '') return { command: said, words: new Map() };
  const words = new Map<string, number>();
  const word = new RegExp(String.raw`\s*([A-Z])(${VALUE})?`, 'y');
  word.lastIndex = head.length;
  let read = head.length;
  let twice: string | undefined;
  for (let match = word.exec(said); match; match = word.exec(said)) {
    const [, name = '', value = ''] = match;
    if (words.has(name)) twice ??= name;
    words.set(name, value === '' ? NaN : Number(value));
    read = word.lastIndex;
  }
  const left = said.slice(read).trim();
  const unreadable = left !== '' ? `“${left}” is neither a letter nor a number` : twice && `${twice} is there twice`;
  return { words, ...(unreadable ? { unreadable } : { command: `${letter}${digits}` }) };
} // prettier-ignore
