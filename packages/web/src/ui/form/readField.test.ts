import type { FormField } from '@jolly/core/tree/formField';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readField, typedOf } from './readField';

const field = (is: FormField['is'], unit?: string): FormField => ({ path: ['x'], is, label: 'Pins', ...(unit && { unit }) }); // prettier-ignore
const read = (is: FormField['is'], typed: string, unit?: string) => readField(field(is, unit), typed);

describe('what is typed in a field of a form', () => {
  it('emptied, it is taken out, whatever it is', () => {
    for (const is of ['text', 'sentence', 'number', 'numbers', 'words'] as const)
      expect(read(is, '  ')).toEqual({ value: undefined });
  });
  it('a number takes its unit, another that turns into it, and a comma', () => {
    expect(read('number', '11 cm', 'mm')).toEqual({ value: 110 });
    expect(read('number', '4,7 kohm', 'Ω')).toEqual({ value: 4700 });
    expect(read('number', 'much', 'mm')).toEqual({ refused: 'Pins: “much” is no number of mm or of a unit that turns into it' }); // prettier-ignore
  });
  it('numbers stand in order, and count on', () => {
    expect(read('numbers', '12 24')).toEqual({ value: [12, 24] });
    expect(read('numbers', '28..31, 72')).toEqual({ value: [28, 29, 30, 31, 72] });
    expect(read('numbers', '31..28')).toMatchObject({
      refused: expect.stringContaining('31..28') as unknown,
    });
    expect(read('numbers', '0..100000')).toHaveProperty('refused');
  });
  it('words are parted by commas, so that one may have spaces', () => {
    expect(read('words', 'ALDER A32, rev 1.1')).toEqual({ value: ['ALDER A32', 'rev 1.1'] });
    expect(read('words', ' a1 ,, a2 ')).toEqual({ value: ['a1', 'a2'] });
  });
  it('what stands in a file is typed so that reading it gives the same again', () => {
    const same = (is: FormField['is'], any: fc.Arbitrary<unknown>) =>
      fc.assert(
        fc.property(any, (value) => {
          expect(read(is, typedOf(value))).toEqual({ value });
        }),
      );
    const word = fc.stringMatching(/^[a-z][a-z0-9 ]{0,8}[a-z0-9]$/);
    same('numbers', fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 12 }));
    same('words', fc.array(word, { minLength: 1, maxLength: 6 }));
    same('number', fc.integer({ min: -1000, max: 1e6 }));
    same('text', word);
  });
  it('any text at all is read or refused in words, never thrown at', () => {
    fc.assert(
      fc.property(fc.constantFrom('text', 'number', 'numbers', 'words'), fc.string(), (is, typed) => {
        const found = read(is, typed);
        expect('value' in found || found.refused.startsWith('Pins: ')).toBe(true);
      }),
    );
  });
  it('what has no words of its own is typed as nothing', () => {
    expect(typedOf(undefined)).toBe('');
    expect(typedOf(null)).toBe('');
    expect(typedOf({ x: 1 })).toBe('');
    expect(typedOf(false)).toBe('false');
  });
});
