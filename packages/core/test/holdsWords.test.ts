import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { holdsWords } from '../src/text/holdsWords';

describe('what is sought in a list', () => {
  it.each([
    ['X travel to', 'travel x', true],
    ['X travel to', 'TRAV', true],
    ['X travel to', 'travel y', false],
    ['X travel to', '  ', true],
    ['', 'x', false],
  ])('“%s”, sought by “%s”: %s', (text, sought, held) => expect(holdsWords(text, sought)).toBe(held));
  it('each text is found by its own words, in any order', () => {
    fc.assert(fc.property(fc.array(fc.stringMatching(/^[a-z0-9.]{1,8}$/)), (words) => {
      expect(holdsWords(words.join(' '), [...words].reverse().join('  '))).toBe(true);
    })); // prettier-ignore
  });
});
