import type { Change } from '@jolly/core/ripple/change';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changesOver } from '../src/changesOver';

const servo = (id: string, part = 'twig-servo'): Change => ({ id, kind: 'servo', role: id, part });
const plan = fc.uniqueArray(fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd'), part: fc.constantFrom('one', 'two') }), { selector: ({ id }) => id }).map((list) => list.map(({ id, part }) => servo(id, part))); // prettier-ignore

describe('changes of a job that are being edited', () => {
  it('are what was edited where nothing was planned meanwhile, and what was planned where nothing was edited', () => {
    fc.assert(
      fc.property(plan, plan, (from, other) => {
        expect(changesOver(from, { from, to: other })).toEqual(other);
        expect(changesOver(other, { from, to: from })).toEqual(other);
      }),
    );
  });
  it('keep what was planned elsewhere, and every edit', () => {
    const from = [servo('a'), servo('b')];
    const to = [servo('a', 'other'), servo('mine')];
    expect(changesOver([...from, servo('theirs')], { from, to })).toEqual([servo('a', 'other'), servo('theirs'), servo('mine')]); // prettier-ignore
  });
  it('one that was taken out elsewhere comes back only with what was edited of it', () => {
    const from = [servo('a'), servo('b')];
    expect(changesOver([servo('b')], { from, to: [servo('a'), servo('b', 'other')] })).toEqual([servo('b', 'other')]); // prettier-ignore
    expect(changesOver([servo('b')], { from, to: [servo('a', 'other'), servo('b')] })).toEqual([servo('b'), servo('a', 'other')]); // prettier-ignore
  });
});
