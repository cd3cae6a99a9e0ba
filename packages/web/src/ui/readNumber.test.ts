import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNumber } from './readNumber';

describe('readNumber', () => {
  it.each([
    ['230', '', 230],
    ['1,5', 'mm', 1.5],
    ['1.5 mm', 'mm', 1.5],
    ['−2,05mm', 'mm', -2.05],
    [' +3 ', '', 3],
    ['.5', '', 0.5],
    ['23 cm', 'mm', 230],
    ['1 in', 'mm', 25.4],
    ['6000 mm/min', 'mm/s', 100],
    ['840 mA', 'A', 0.84],
    ['4,7 kΩ', 'Ω', 4700],
    ['300ms', 's', 0.3],
    ['1/2 in', 'mm', 12.7],
    ['½ in', 'mm', 12.7],
    ['1 ½ in', 'mm', 38.1],
    ['1½', 'mm', 1.5],
    ['-1 3/8 "', 'mm', -34.925],
    ['3/4', '', 0.75],
  ])('%s', (text, unit, value) => expect(readNumber(text, unit)).toBe(value));
  it.each([
    '',
    'mm',
    '1e5',
    '0x10',
    '1,2,3',
    'twelve',
    '3 kg',
    '--1',
    'NaN',
    'Infinity',
    '1/0',
    '1/2/3',
    '/2',
    '½½',
  ])('"%s" is no number', (text) => {
    expect(readNumber(text, 'mm')).toBeUndefined();
  });
  it('reads back what a person sees', () => {
    fc.assert(
      fc.property(fc.integer({ min: -100000, max: 100000 }), (thousandths) => {
        const value = thousandths / 1000;
        expect(readNumber(`${String(value).replace('.', ',')} mm`, 'mm')).toBe(value);
      }),
    );
  });
});
