import { store } from '@jolly/session/store';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { followed } from '../src/app/followed';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A value, what is drawn of it, and every value that was drawn. */
function drawing() {
  const value = store(0);
  const drawn = followed(value);
  const seen: number[] = [];
  const end = drawn.listen(() => seen.push(drawn.now()));
  return { value, drawn, seen, end };
}

describe('a value that changes many times a second', () => {
  it('is drawn at once after a pause, and what follows together', () => {
    const { value, seen } = drawing();
    for (const next of [1, 2, 3]) value.set(next);
    expect(seen).toEqual([1]);
    vi.runAllTimers();
    expect(seen).toEqual([1, 3]);
    value.set(4);
    expect(seen).toEqual([1, 3, 4]);
  });
  it('is not drawn again where it came back to what is drawn', () => {
    const { value, seen } = drawing();
    value.set(1);
    value.set(2);
    value.set(1);
    vi.runAllTimers();
    expect(seen).toEqual([1]);
  });
  it('stays as it is drawn between two drawings, so that one picture holds together', () => {
    const { value, drawn } = drawing();
    value.set(1);
    value.set(2);
    expect(drawn.now()).toBe(1);
    vi.runAllTimers();
    expect(drawn.now()).toBe(2);
  });
  it('is what it is now where nobody draws, also after somebody did', () => {
    const { value, drawn, seen, end } = drawing();
    value.set(1);
    value.set(2);
    end();
    expect(drawn.now()).toBe(2);
    vi.runAllTimers();
    value.set(3);
    expect(drawn.now()).toBe(3);
    expect(seen).toEqual([1]);
    const again = drawn.listen(() => seen.push(drawn.now()));
    value.set(4);
    expect(seen).toEqual([1, 4]);
    again();
  });
  it('is drawn by all who draw it, and one who leaves takes nothing from the others', () => {
    const { value, drawn, seen, end } = drawing();
    const other: number[] = [];
    const leave = drawn.listen(() => other.push(drawn.now()));
    value.set(1);
    leave();
    value.set(2);
    vi.runAllTimers();
    expect([seen, other]).toEqual([[1, 2], [1]]); // prettier-ignore
    end();
  });
});
