import type { DialectValue, TextLine } from './dialect';

/** A number in a line that was not read, where it stands. */
export interface LineNumber {
  at: number;
  text: string;
}

/** What is chosen for a number: the setting it is, a number that is not taken, or a fixed part of the text. */
export type NumberMeaning = DialectValue | 'not taken' | 'fixed';

const NUMBER = /[-+]?(?:\d+\.?\d*|\.\d+)/g;

/** The numbers of a line, in order. A digit inside a word is no number. */
export function numbersIn(text: string): LineNumber[] {
  return [...text.matchAll(NUMBER)]
    .filter(({ index }) => !/[A-Za-z0-9_]/.test(text[index - 1] ?? ' '))
    .map((match) => ({ at: match.index, text: match[0] }));
}

/**
 * The dialect line that reads lines like this one. `meanings` are by the numbers of `numbersIn`.
 * Undefined when no number has a setting, or when nothing but numbers is left to know the line by.
 */
export function teachLine(text: string, meanings: readonly NumberMeaning[]): TextLine | undefined {
  let pattern = '';
  let from = 0;
  const values: (DialectValue | null)[] = [];
  numbersIn(text).forEach(({ at, text: number }, index) => {
    const meaning = meanings[index] ?? 'fixed';
    const fixed = meaning === 'fixed';
    pattern += text.slice(from, at) + (fixed ? number : '#');
    from = at + number.length;
    if (!fixed) values.push(meaning === 'not taken' ? null : meaning);
  });
  pattern = (pattern + text.slice(from)).trim();
  const known = /[A-Za-z]{2}/.test(pattern) && !text.includes('#');
  return known && values.some((value) => value !== null) ? { text: pattern, values } : undefined;
}
