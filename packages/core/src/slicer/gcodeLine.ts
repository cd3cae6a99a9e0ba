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

/** A command in small words, up to its first value. */
function worded(said: string): Read {
  if (/^[gmtn]\d/.test(said))
    return { words: new Map(), unreadable: 'it is written in small letters; the board knows capitals' };
  const command = said
    .split(/\s+/)
    .filter((word, index, all) => !all.slice(0, index + 1).some((before) => before.includes('=')))
    .join(' ');
  return { command, words: new Map() };
}

/** A letter with its number, and letters behind it, with numbers of their own or alone; blanks do not matter. */
function coded(said: string): Read {
  const [head = '', letter = '', digits = ''] = /^([A-Z])0*(\d+)/.exec(said) ?? [];
  // What else begins with a capital is no command of this kind; a name is looked for as it stands.
  if (head === '') return { command: said, words: new Map() };
  const words = new Map<string, number>();
  const word = /\s*([A-Z])([-+]?(?:\d+\.?\d*|\.\d+)|\{[^}]*\}|\[[^\]]*\]|<[^>]*>)?/y;
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
