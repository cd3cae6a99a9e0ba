/** Exit codes of every command: fine, findings that stop, bad input. */
export const EXIT = { fine: 0, stopped: 1, badInput: 2 } as const;

export interface Call {
  words: string[];
  /** The checkout. */
  root: string;
  /** Where kept things lie. */
  data: string;
}
export type Command = (call: Call) => Promise<number>;

/** Words parted into flags (`--json`), values (`--out DIR`) and the rest. */
export function readWords(
  words: string[],
  withValue: string[] = [],
): { flags: Set<string>; values: Map<string, string>; rest: string[] } {
  const flags = new Set<string>();
  const values = new Map<string, string>();
  const rest: string[] = [];
  const left = words.values();
  for (const word of left) {
    const name = word.slice(2);
    if (!word.startsWith('--')) rest.push(word);
    else if (withValue.includes(name)) values.set(name, left.next().value ?? '');
    else flags.add(name);
  }
  return { flags, values, rest };
}

/** Says what is wrong with the input, on standard error. */
export function badInput(message: string): number {
  console.error(message);
  return EXIT.badInput;
}
