import { LONGEST_LINE } from '../text/limits';
import { onOneLine } from '../text/plainText';

/** One line of G-code: its command and the numbers behind its letters. */
export interface GcodeLine {
  /** Counted from 1. */
  line: number;
  text: string;
  /** Such as `G28` or `map take`; undefined for an empty line, a remark, or a slicer's own line in braces. */
  command?: string;
  /** By letter; a letter without a number, or with a slicer's placeholder, has NaN. */
  words: ReadonlyMap<string, number>;
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

/** Takes G-code apart. Remarks after `;` and in brackets are left out; letters may be small; never throws. */
export function readGcode(text: string): GcodeLine[] {
  return text.split(/\r?\n/).map((raw, index) => {
    const said = saidIn(raw);
    const [head = '', ...rest] = said.toUpperCase().split(/\s+/);
    const command = commandOf(said, head);
    const words = new Map<string, number>();
    for (const word of rest) {
      const match = /^([A-Z])(.*)$/.exec(word);
      if (match?.[1]) words.set(match[1], match[2] === '' ? NaN : Number(match[2]));
    }
    return {
      line: index + 1,
      text: raw.trim(),
      ...(command && { command }),
      words,
    };
  });
}

/** Letter and number without leading zeros, or the words before the first value. */
function commandOf(said: string, head: string): string | undefined {
  // Lines in braces are the slicer's own: they never reach the machine as they stand.
  if (said === '' || /^[{[<]/.test(said)) return undefined;
  const code = /^([GMT])0*(\d+)$/.exec(head);
  if (code) return `${code[1]}${code[2]}`;
  return said
    .split(/\s+/)
    .filter((word, index, all) => !all.slice(0, index + 1).some((before) => before.includes('=')))
    .join(' ');
}
