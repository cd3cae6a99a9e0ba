import type { Kit, Option } from '../kit/kit';
import { CALLED_ALSO, SYMPTOMS } from './calledAlso';
import { likenessTo, wordsOf } from './likeness';

/** Something that can be found, with the words it is found by; what stands first weighs most. */
export interface Entry {
  id: string;
  title: string;
  /** Key, unit, what it is for. */
  hint?: string;
  /** What people call it. */
  also?: string;
  /** What one sees or hears when it is wrong. */
  symptoms?: string;
  /** How far down it stands among what is to be looked at for its symptoms. */
  place?: number;
}
export interface Found {
  id: string;
  /** The less the better. */
  score: number;
  /** Which of its words answered, where it was not its title. */
  by?: 'hint' | 'also' | 'symptom';
}

const FIELDS = [
  { of: 'title', weight: 0, by: undefined },
  { of: 'hint', weight: 2, by: 'hint' },
  { of: 'also', weight: 2.5, by: 'also' },
  { of: 'symptoms', weight: 3, by: 'symptom' },
] as const;
/** Words that say nothing. */
const EMPTY = new Set([
  'the',
  'a',
  'an',
  'is',
  'my',
  'it',
  'of',
  'to',
  'does',
  'do',
  'in',
  'on',
  'at',
  'and',
]);

const WHOLE_NAME = 0.5;

export interface Index {
  entries: { id: string; words: string[][]; place: number }[];
}

/** Takes entries apart once, so that every keystroke is quick. */
export function indexOf(entries: readonly Entry[]): Index {
  return {
    entries: entries.map((entry) => ({
      id: entry.id,
      words: FIELDS.map(({ of }) => wordsOf(entry[of] ?? '')),
      place: entry.place ?? 0,
    })),
  };
}

/**
 * Entries that answer a question, best first: every word that says something must be found in title, hint, other
 * names or symptoms, typing errors forgiven. Entries of one score keep their order.
 */
export function find(index: Index, question: string, most = 30): Found[] {
  const all = wordsOf(question);
  const telling = all.filter((word) => !EMPTY.has(word));
  const asked = telling.length > 0 ? telling : all;
  if (asked.length === 0) return index.entries.slice(0, most).map(({ id }) => ({ id, score: 0 }));
  const comparers = asked.map((word) => ({ word, off: likenessTo(word) }));
  return index.entries
    .flatMap(({ id, words, place }) => {
      let score = 0;
      let worst = 0;
      for (const asking of comparers) {
        const best = bestField(asking, words);
        if (!best) return [];
        score += best.score;
        worst = Math.max(worst, best.field);
      }
      const by = FIELDS[worst]?.by;
      if (by === 'symptom') score += place * 0.2;
      // Asked for by its whole name, also by words that say nothing elsewhere: “plate to” is not “plate from”.
      if (words[0]?.join(' ') === all.join(' ')) score -= WHOLE_NAME;
      return [{ id, score, ...(by && { by }) }];
    })
    .sort((a, b) => a.score - b.score)
    .slice(0, most);
}

function bestField(
  { word, off: offOf }: { word: string; off: ReturnType<typeof likenessTo> },
  words: string[][],
): { score: number; field: number } | undefined {
  let best: { score: number; field: number } | undefined;
  words.forEach((list, field) => {
    const off = offOf(list);
    if (off === undefined) return;
    // A word that comes first in a title is what it is about.
    const score = (FIELDS[field]?.weight ?? 0) + off + (field === 0 && list[0] !== word ? 0.1 : 0);
    if (!best || score < best.score) best = { score, field };
  });
  return best;
}

/** A setting as it can be found: by its name, its key and unit, what people call it, and by what goes wrong. */
export function optionEntry(option: Option): Entry {
  const matches = (pattern: RegExp) => pattern.test(option.key);
  const symptoms = SYMPTOMS.filter(({ keys }) => keys.some(matches));
  return {
    id: option.key,
    title: option.label,
    hint: `${option.key.replaceAll('.', ' ')} ${'unit' in option ? option.unit : ''} ${option.for}`,
    also: CALLED_ALSO.filter(({ key }) => matches(key))
      .map(({ words }) => words)
      .join(' '),
    symptoms: symptoms.map(({ says }) => says).join(' '),
    place: Math.min(Infinity, ...symptoms.map(({ keys }) => keys.findIndex(matches))),
  };
}

/** Every setting of a kit, ready to be searched. */
export const settingIndex = (kit: Kit): Index => indexOf(kit.options.map(optionEntry));
