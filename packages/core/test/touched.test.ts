import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { atomsInWords, sameInWords } from '../src/machine/touched';

describe('two lines that tell of a fact', () => {
  const fact = fc.array(
    fc.dictionary(fc.stringMatching(/^[a-z]{1,4}$/), fc.integer({ min: 0, max: 9 }), { minKeys: 1 }),
    { minLength: 1, maxLength: 3 },
  );
  it('tell the same whatever the order of its keys', () => {
    fc.assert(
      fc.property(fact, (atoms) => {
        const turned = atoms.map((atom) => Object.fromEntries(Object.entries(atom).reverse()));
        expect(sameInWords(atomsInWords(atoms), atomsInWords(turned))).toBe(true);
      }),
    );
  });
  it('tell another fact where a value of it is another', () => {
    fc.assert(
      fc.property(fact, fc.nat(), (atoms, which) => {
        const at = which % atoms.length;
        const other = atoms.map((atom, index) => (index === at ? { ...atom, other: 1 } : atom));
        expect(sameInWords(atomsInWords(atoms), atomsInWords(other))).toBe(false);
      }),
    );
    expect(sameInWords('none', atomsInWords(['x-switch']))).toBe(false);
    expect(atomsInWords(undefined)).toBe('none');
  });
});
