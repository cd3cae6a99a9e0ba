import fc from 'fast-check';
import { expect, it } from 'vitest';
import { freeId } from '../src/machine/freeId';
import { id } from '../src/text/id';

/** Names as people give them: letters of any script, marks, spaces, and very long ones. */
const name = fc.oneof(fc.string({ maxLength: 80 }), fc.string({ unit: 'grapheme', maxLength: 80 }), fc.stringMatching(/^[a-z0-9 -]{30,80}$/)); // prettier-ignore

it('of any name an id is made that a file may hold, and that none has yet, for a dozen of one name', () => {
  fc.assert(
    fc.property(name, fc.integer({ min: 1, max: 12 }), (called, count) => {
      // So many have it already.
      const first = freeId(called, new Set());
      const taken = new Set([first, ...Array.from({ length: 990 }, (_, nth) => `${first}-${nth + 2}`)]);
      for (let nth = 0; nth < count; nth += 1) {
        const made = freeId(called, taken);
        expect(id().validate(made).error).toBeUndefined();
        expect(taken.has(made)).toBe(false);
        taken.add(made);
      }
    }),
    { seed: 12 },
  );
});

it('a name keeps what is in it: marks come off, letters are spelt, signs part its words', () => {
  const none = new Set<string>();
  expect(freeId('Größe Ølen & Łódź 2', none)).toBe('grosse-olen-lodz-2');
  expect(freeId('Knot 2', new Set(['knot-2']))).toBe('knot-2-2');
  expect([freeId('  …  ', none), freeId('日本', none, 'board')]).toEqual(['machine', 'board']);
});
