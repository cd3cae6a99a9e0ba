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

/**
 * Edits between two words, a swap of neighbours counting as one (Damerau 1964, restricted); stops at `most` + 1.
 */
export function edits(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let [before, last] = [[] as number[], Array.from({ length: b.length + 1 }, (_, index) => index)];
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= b.length; j += 1) {
      const same = a[i - 1] === b[j - 1];
      let cost = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        cost = Math.min(cost, before[j - 2]! + 1);
      row.push(cost);
    }
    if (Math.min(...row) > most) return most + 1;
    [before, last] = [last, row];
  }
  return last[b.length]!;
}

/** Typing errors forgiven, by the length of the word. */
const forgiven = (word: string) => (word.length <= 3 ? 0 : word.length <= 6 ? 1 : 2);

/** How unlike a typed word is the best of some words: 0 same, below 1 its beginning, 1 and up with typing errors; undefined when none is close. */
export function unlikeness(typed: string, words: readonly string[]): number | undefined {
  let best: number | undefined;
  const take = (score: number) => void (best = best === undefined ? score : Math.min(best, score));
  const most = forgiven(typed);
  for (const word of words) {
    if (word === typed) return 0;
    if (word.startsWith(typed)) take(0.3);
    else if (typed.length >= 3 && word.includes(typed)) take(0.7);
    else if (most > 0) {
      const off = edits(typed, word, most);
      if (off <= most) take(off);
      // The beginning of a longer word, mistyped.
      else if (word.length > typed.length && edits(typed, word.slice(0, typed.length), 1) <= 1) take(1.5);
    }
  }
  return best;
}
