import { describe, expect, it } from 'vitest';
import { openTape } from '../src/tape';

describe('the tape', () => {
  it('keeps everything in the order it came, each line with its time and a number of its own', () => {
    let now = 1000;
    const tape = openTape(() => now);
    tape.write('sent', 'M105');
    now = 2000;
    tape.write('heard', 'heat hotend now=20', 'done');
    expect(tape.lines.now().map(({ id, kind, text, at }) => [id, kind, text, at.getTime()])).toEqual([
      [1, 'sent', 'M105', 1000],
      [2, 'heard', 'heat hotend now=20', 2000],
      [3, 'heard', 'done', 2000],
    ]);
  });
  it('lets the oldest go, and gives no number twice', () => {
    const tape = openTape(() => 0);
    for (let at = 0; at < 60; at += 1)
      tape.write('build', ...Array.from({ length: 100 }, () => `line ${at}`));
    const lines = tape.lines.now();
    expect(lines).toHaveLength(5000);
    expect(lines[0]).toMatchObject({ id: 1001, text: 'line 10' });
    expect(new Set(lines.map(({ id }) => id)).size).toBe(5000);
  });
  it('tells whoever watches, once for all that was written at once', () => {
    const tape = openTape(() => 0);
    let told = 0;
    const end = tape.lines.listen(() => (told += 1));
    tape.write('done', 'one', 'two');
    expect(told).toBe(1);
    end();
    tape.write('done', 'three');
    expect(told).toBe(1);
  });
});
