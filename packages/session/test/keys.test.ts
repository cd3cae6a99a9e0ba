import { describe, expect, it } from 'vitest';
import { keyList } from '../src/keys';

describe('keys of the window', () => {
  it('none does two things', () => {
    const keys = keyList().flatMap(([, { keys }]) => keys);
    expect(new Set(keys).size).toBe(keys.length);
  });
  it('those that a button or a list takes for itself are left to it', () => {
    for (const [act, { keys, shared }] of keyList())
      if (keys.some((key) => ['enter', ' ', 'tab', 'arrowup', 'arrowdown'].includes(key)))
        expect([act, shared]).toEqual([act, true]);
  });
});
