import { describe, expect, it } from 'vitest';
import { findingsAfter, own } from './fixtures/demo';

describe('a guard that does not suit its heater', () => {
  it.each([
    ['heat.guard-late', 'drop-time', 500, 1],
    ['heat.guard-trips', 'rise-time', 6, -1],
  ] as const)('%s: the nearest time that does is offered', (id, window, set, beyond) => {
    const key = `guard.hotend.${window}`;
    const remediesAt = (value: number) => findingsAfter('plover', own(key, value)).find((finding) => finding.id === id)?.remedies;
    const offered = remediesAt(set)?.find(({ label }) => label.startsWith('Make it'));
    const value = Number(/\d+/.exec(offered?.label ?? '')?.[0]);
    expect(offered?.edits).toEqual([expect.objectContaining({ value: expect.objectContaining({ value }) })]);
    expect(remediesAt(value)).toBeUndefined();
    expect(remediesAt(value + beyond)).toBeDefined();
  }); // prettier-ignore
});
