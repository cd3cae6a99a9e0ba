import { check } from '@jolly/core/checks/checks';
import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, own } from '../../core/test/fixtures/demo';
import { previewInWords } from '../src/previewInWords';

const facts = factsOf(demoMachine('plover'));
const settings = derive(facts);
const before = { kit: facts.kit, findings: check(facts, settings), settings };
const after = (...edits: Edit[]) => {
  const changed = factsOf(applyEdits(facts.machine, edits));
  const would = derive(changed);
  return { settings: [...would.values()], findings: check(changed, would) };
};

describe('a change that is shown before it is made', () => {
  it('names each setting with both values and its unit', () => {
    const [line, ...others] = previewInWords(before, after(own('accel.y', 850)));
    expect(line).toMatch(/: 850 mm\/s² instead of \d+ mm\/s²$/);
    expect(others.filter((other) => other.includes('instead of'))).toEqual([]);
  });

  it('says what would have to be settled then, and what it settles', () => {
    const off = previewInWords(before, after(own('guard.bed', false)));
    expect(off.some((line) => /^To settle then: .*guard/i.test(line))).toBe(true);
    const without = after(own('guard.bed', false));
    const back = previewInWords(
      {
        ...before,
        findings: without.findings,
        settings: new Map(without.settings.map((one) => [one.key, one])),
      },
      after(),
    );
    expect(back.some((line) => /^Settled by it: .*guard/i.test(line))).toBe(true);
    expect(back).toContainEqual(expect.stringMatching(/: on instead of off$/));
  });

  it('is empty when nothing is otherwise', () => {
    expect(previewInWords(before, after({ path: ['note'], value: 'another note' }))).toEqual([]);
  });
});
