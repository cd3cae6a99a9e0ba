import { holdsWords } from '@jolly/core/text/holdsWords';
import { useDraft } from './useDraft';

export interface Sought {
  words: string;
  seek: (words: string) => void;
  /** Whether a text is among what is sought. */
  finds: (...texts: readonly (string | undefined)[]) => boolean;
}

/** What is sought in a list, by its name; it stays over a look elsewhere and a reload, in this window. */
export function useSought(list: string): Sought {
  const [words, set] = useDraft(`sought:${list}`, '');
  return {
    words,
    seek: (next) => set(next === '' ? undefined : next),
    finds: (...texts) => holdsWords(texts.join(' '), words),
  };
}
