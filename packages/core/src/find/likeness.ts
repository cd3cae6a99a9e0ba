const letters = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '');

/** The words of a text as they are compared: small letters without accents, split at everything else. */
export const wordsOf = (text: string): string[] =>
  letters(text)
    .split(/[^a-z0-9°%/²³µ]+/)
    .filter(Boolean);

const cell = (row: readonly number[], index: number): number => row[index] ?? 0;

/**
 * Edits between two words, a swap of neighbours counting as one (Damerau 1964, restricted); stops at `most` + 1.
 */
export function edits(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= b.length; j += 1) {
      const same = a[i - 1] === b[j - 1];
      let cost = Math.min(cell(last, j) + 1, cell(row, j - 1) + 1, cell(last, j - 1) + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        cost = Math.min(cost, cell(before, j - 2) + 1);
      row.push(cost);
    }
    // A swap reaches over two rows: only when neither leads on is it too far.
    if (Math.min(...row) > most && Math.min(...last) >= most) return most + 1;
    [before, last] = [last, row];
  }
  return Math.min(cell(last, b.length), most + 1);
}

/** Typing errors forgiven, by the length of the word. */
const forgiven = (word: string) => (word.length <= 3 ? 0 : word.length <= 6 ? 1 : 2);

/** How unlike a typed word is to another: 0 same, below 1 its beginning or a piece, 1 and up with typing errors; undefined when it is not close. */
function unlike(typed: string, word: string): number | undefined {
  if (word === typed) return 0;
  if (word.startsWith(typed)) return 0.3;
  if (typed.length >= 3 && word.includes(typed)) return 0.7;
  const most = forgiven(typed);
  if (most === 0) return undefined;
  const off = edits(typed, word, most);
  if (off <= most) return off;
  // The beginning of a longer word, mistyped.
  return word.length > typed.length && edits(typed, word.slice(0, typed.length), 1) <= 1 ? 1.5 : undefined;
}

/** `unlike` for the best of some words. Settings share their words, so each is compared once. */
export function likenessTo(typed: string): (words: readonly string[]) => number | undefined {
  const known = new Map<string, number | undefined>();
  return (words) => {
    let best: number | undefined;
    for (const word of words) {
      if (!known.has(word)) known.set(word, unlike(typed, word));
      const off = known.get(word);
      if (off !== undefined && (best === undefined || off < best)) best = off;
      if (best === 0) break;
    }
    return best;
  };
}
