import { describe, expect, it } from 'vitest';
import { find, indexOf } from '../src/find/find';
import { likenessTo, wordsOf } from '../src/find/likeness';

describe('how unlike a typed word is', () => {
  const off = (typed: string, word: string) => likenessTo(typed)([word]);
  it('nothing when it is the word, little as its beginning or a piece of it', () => {
    expect(off('speed', 'speed')).toBe(0);
    expect(off('spe', 'speed')).toBe(0.3);
    expect(off('eed', 'speed')).toBe(0.7);
    expect(off('ee', 'speed')).toBeUndefined();
  });
  it.each([
    ['three letters forgive nothing', 'fam', 'fan', undefined],
    ['four forgive one', 'hoem', 'home', 1],
    ['and not two', 'hxyme', 'home', undefined],
    ['six forgive one', 'heatre', 'heater', 1],
    ['seven forgive two', 'thermsitr', 'thermistor', 2],
    ['and not three', 'thxxxistor', 'thermistor', undefined],
    ['a mistyped beginning of a longer word', 'theem', 'thermistor', 1.5],
  ])('%s', (_what, typed, word, expected) => {
    expect(off(typed, word)).toBe(expected);
  });
  it('is that of the best of some words', () => {
    expect(likenessTo('heater')(['fan', 'heatres', 'heater'])).toBe(0);
    expect(likenessTo('heater')([])).toBeUndefined();
  });
  it('words are small, without accents, split at everything else', () => {
    expect(wordsOf('Café-Türe, 24 V/°C')).toEqual(['cafe', 'ture', '24', 'v/°c']);
  });
});

describe('what is found', () => {
  it('first is what is asked for by its whole name, also by words that say nothing elsewhere', () => {
    const index = indexOf(['Plate from, X', 'Plate to, X', 'Plate to, X, and more'].map((title) => ({ id: title, title })));
    expect(find(index, 'plate to, x')[0]?.id).toBe('Plate to, X');
    expect(find(index, 'plate from x')[0]?.id).toBe('Plate from, X');
    expect(find(index, 'plate x')).toHaveLength(3);
  }); // prettier-ignore

  const index = indexOf([
    { id: 'title', title: 'Bed heater' },
    { id: 'hint', title: 'Power', hint: 'of the bed' },
    { id: 'also', title: 'Plate', also: 'bed' },
    { id: 'early', title: 'Warped print', symptoms: 'corners lift off the bed', place: 1 },
    { id: 'late', title: 'First layer', symptoms: 'nothing sticks to the bed', place: 3 },
  ]);
  it('stands by what answered: title, hint, other names, then symptoms in their order', () => {
    const found = find(index, 'bed');
    expect(found.map(({ id }) => id)).toEqual(['title', 'hint', 'also', 'early', 'late']);
    expect(found.map(({ by }) => by)).toEqual([undefined, 'hint', 'also', 'symptom', 'symptom']);
  });
  it('needs every word that says something, and no more than asked for', () => {
    expect(find(index, 'the bed heater').map(({ id }) => id)).toEqual(['title']);
    expect(find(index, 'bed spoon')).toEqual([]);
    expect(find(index, 'bed', 2)).toHaveLength(2);
    expect(find(index, '')).toHaveLength(5);
  });
  it('a question of small words alone is still a question', () => {
    expect(find(index, 'to the').map(({ id }) => id)).toContain('late');
  });
});
