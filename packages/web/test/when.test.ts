import { describe, expect, it } from 'vitest';
import { daysAgo } from '../src/ui/when';

const at = (day: number, hour: number) => new Date(2026, 9, day, hour);
const ago = (then: Date, now: Date) => daysAgo(then.toISOString(), now);

describe('days ago', () => {
  it('are days of the calendar, also over a night and where the clocks change', () => {
    expect(ago(at(20, 8), at(20, 23))).toBe('today');
    expect(ago(at(20, 23), at(21, 1))).toBe('yesterday');
    expect(ago(at(20, 1), at(21, 23))).toBe('yesterday');
    expect(ago(at(24, 12), at(26, 0))).toBe('2 days ago');
    expect(ago(at(1, 23), at(31, 0))).toBe('30 days ago');
  });

  it('do not run ahead where a clock was set back', () => {
    expect(ago(at(21, 1), at(20, 8))).toBe('today');
  });
});
