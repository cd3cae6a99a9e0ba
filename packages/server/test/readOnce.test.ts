import { describe, expect, it } from 'vitest';
import { demoMachine, installed } from '../../core/test/fixtures/demo';
import { readOnce } from '../src/app/readOnce';
import type { MachineText } from '../src/sql/machines';

const { catalogue } = installed;
const stored = (change: object = {}, id = 'once'): MachineText => ({
  id,
  text: JSON.stringify({ ...demoMachine('plover'), id, ...change }),
  version: 1,
  changedAt: '2026-11-28T08:00:00.000Z',
});

describe('a machine of the shelf', () => {
  it('is read once for each text of it', () => {
    const first = readOnce(stored(), catalogue);
    expect(readOnce(stored(), catalogue)).toBe(first);
    expect(first.machine.name).toBe('Plover');
    const renamed = readOnce(stored({ name: 'Plover two' }), catalogue);
    expect(renamed.machine.name).toBe('Plover two');
    // Back to what it was it is read anew: only the last text is remembered.
    expect(readOnce(stored(), catalogue)).toEqual(first);
  });

  it('that takes the place of another of its version is another', () => {
    expect(readOnce(stored({ place: 'cellar' }), catalogue).machine.place).toBe('cellar');
    expect(readOnce(stored({ place: 'attic' }), catalogue).machine.place).toBe('attic');
  });

  it('is looked up anew when any list of the catalogue is another', () => {
    const known = readOnce(stored(), catalogue);
    expect('facts' in known.read).toBe(true);
    const parts = catalogue.parts.map((part) => ({ ...part, name: `${part.name} II` }));
    const anew = readOnce(stored(), { ...catalogue, parts });
    expect('facts' in anew.read && anew.read.facts.parts.every(({ type }) => type.name.endsWith(' II'))).toBe(true); // prettier-ignore
    const { read } = readOnce(stored(), { ...catalogue, boards: [] });
    expect('problems' in read && read.problems[0].message).toContain('no board');
  });

  it('is told apart from its neighbour', () => {
    const one = readOnce(stored({}, 'one'), catalogue);
    const other = readOnce(stored({}, 'other'), catalogue);
    expect([one.machine.id, other.machine.id]).toEqual(['one', 'other']);
    expect(readOnce(stored({}, 'one'), catalogue)).toBe(one);
  });
});
