import { describe, expect, it } from 'vitest';
import { buildFor, flashed, talkTo, workshop } from './fixtures/builtMachine';
import { onBoard, optionSets, withOptions } from './fixtures/optionSets';

const plover = workshop();

describe('sets of options compile, link and boot (npm run options for all of them)', () => {
  it('a set holds every pair of values, and there are few of them', () => {
    const sets = optionSets(plover.facts());
    expect(sets.length).toBeGreaterThan(20);
    expect(sets.length).toBeLessThan(90);
    expect(sets.some(({ set }) => set['guard.bed'] === false && set['control.bed'] === 'on-off')).toBe(true);
    expect(sets.some(({ set }) => set['store.kept'] === true && set['probe.kind'] === 'nozzle')).toBe(true);
  });
  it.each([
    ['all on', 'alder-a32', '1.1'],
    ['all off', 'alder-a32', '1.1'],
    ['all on', 'fenwick-f8', '2'],
    ['all off', 'sedge-s4', '1'],
    ['pairs 3', 'harrow-h6', 'B'],
    ['pairs 11', 'alder-a32', '1.0'],
  ])('%s on %s %s', async (name, board, revision) => {
    const found = optionSets(plover.facts()).find((entry) => entry.name === name)!;
    const facts = withOptions(onBoard(plover.facts(), { board, revision }), found.set);
    const state = flashed(facts, await buildFor(facts, plover.compiler()));
    const { heard, ask, notices } = await talkTo({ facts, state });
    expect(heard[0]).toMatch(/^awake store=/);
    expect(ask('M115').at(-1)).toBe('done');
    expect(notices.filter((notice) => notice.includes('hangs'))).toEqual([]);
  });
});
