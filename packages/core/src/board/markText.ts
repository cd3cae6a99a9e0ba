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
const WORN = '?'.charCodeAt(0);

/** Who reads a revision off a board types “rev 1.1”, “V1.1” or only the figures. */
const REVISION_WORD = /(?<![A-Z])(?:REVISION|REV|VERSION|VER|V)[ .:_-]*(?=\d)/g;

/** A marking as it is compared: upper case, only letters, digits and worn places, letters that look alike made one. */
export function markText(text: string): string {
  return [...text.toUpperCase().replace(REVISION_WORD, ' ')].map((letter) => ALIKE[letter] ?? letter).filter((letter) => /[A-Z0-9?]/.test(letter)).join(''); // prettier-ignore
}

const WORN_COST = 0.1;

/**
 * How many letters of `seen` are wrong, missing or too many against the best matching piece of `printed`; both as
 * markText gives them. A worn place costs a little, so that a readable match is better. Edit distance with free
 * ends (Sellers 1980), one row at a time.
 */
export function misread(seen: string, printed: string): number {
  if (printed.includes(seen)) return 0;
  const width = printed.length;
  // One row, overwritten from left to right; `diagonal` is what stood up and left of the cell.
  const row = new Float64Array(width + 1);
  for (let i = 1; i <= seen.length; i += 1) {
    const letter = seen.charCodeAt(i - 1);
    const wrong = letter === WORN ? WORN_COST : 1;
    let diagonal = row[0] ?? 0;
    row[0] = i;
    let left = i;
    for (let j = 1; j <= width; j += 1) {
      const above = row[j] ?? 0;
      let cost = diagonal + (letter === printed.charCodeAt(j - 1) ? 0 : wrong);
      if (above + 1 < cost) cost = above + 1;
      if (left + 1 < cost) cost = left + 1;
      row[j] = cost;
      left = cost;
      diagonal = above;
    }
  }
  return Math.min(...row);
}
