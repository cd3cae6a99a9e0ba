/** Letters that look alike on a worn print are made one letter. */
const ALIKE: Record<string, string> = {
  O: '0',
  Q: '0',
  D: '0',
  I: '1',
  L: '1',
  '|': '1',
  '!': '1',
  S: '5',
  B: '8',
  Z: '2',
  G: '6',
};
/** What a person types for a letter that cannot be read. */
const WORN = '?';

/** A marking as it is compared: upper case, only letters, digits and worn places, letters that look alike made one. */
export function markText(text: string): string {
  return [...text.toUpperCase()].map((letter) => ALIKE[letter] ?? letter).filter((letter) => /[A-Z0-9?]/.test(letter)).join(''); // prettier-ignore
}

/**
 * How many letters of `seen` are wrong, missing or too many against the best matching piece of `printed`; both as
 * markText gives them. A worn place costs a little, so that a readable match is better.
 */
export function misread(seen: string, printed: string): number {
  let row = new Float64Array(printed.length + 1);
  for (let i = 1; i <= seen.length; i += 1) {
    const next = new Float64Array(printed.length + 1);
    next[0] = i;
    const letter = seen[i - 1]!;
    for (let j = 1; j <= printed.length; j += 1) {
      const swap = letter === printed[j - 1] ? 0 : letter === WORN ? 0.1 : 1;
      next[j] = Math.min(row[j - 1]! + swap, row[j]! + 1, next[j - 1]! + 1);
    }
    row = next;
  }
  return Math.min(...row);
}
