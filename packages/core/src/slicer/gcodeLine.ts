/** One line of G-code: its command and the numbers behind its letters. */
export interface GcodeLine {
  /** Counted from 1. */
  line: number;
  text: string;
  /** Such as `G28`; undefined for an empty line or a remark. */
  command?: string;
  /** By letter; a letter without a number, or with a slicer's placeholder, has NaN. */
  words: ReadonlyMap<string, number>;
}

const LONGEST_LINE = 400;

/** Takes G-code apart. Remarks after `;` and in brackets are left out; letters may be small; never throws. */
export function readGcode(text: string): GcodeLine[] {
  return text.split(/\r?\n/).map((raw, index) => {
    const bare = raw
      .slice(0, LONGEST_LINE)
      .replace(/;.*$/, '')
      .replace(/\([^)]*\)/g, '')
      .trim()
      .toUpperCase();
    const [head = '', ...rest] = bare.split(/\s+/);
    const command = /^([GMT])0*(\d+)$/.exec(head);
    const words = new Map<string, number>();
    for (const word of rest) {
      const match = /^([A-Z])(.*)$/.exec(word);
      if (match) words.set(match[1]!, match[2] === '' ? NaN : Number(match[2]));
    }
    return {
      line: index + 1,
      text: raw.trim(),
      ...(command && { command: `${command[1]}${command[2]}` }),
      words,
    };
  });
}
