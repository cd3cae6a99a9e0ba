import { describe, expect, it } from 'vitest';
import { instructionAt } from '../src/firmware/instructions';

const PREFIX = 0xfc;
/** Numbers of up to two seven-bit bytes behind an opcode: how many of those that stand there it takes. */
function taken(...opcode: number[]): number {
  const cursor = { bytes: Uint8Array.from([...opcode, 0x81, 0x01, 0x82, 0x01, 0x83, 0x01]), at: 0 };
  instructionAt(cursor);
  return (cursor.at - opcode.length) / 2;
}

describe('what stands behind an opcode', () => {
  // Of the format's own table: indices of segments, memories and tables.
  it.each([
    [0, 0], [7, 0], [8, 2], [9, 1], [10, 2], [11, 1], [12, 2], [13, 1], [14, 2], [15, 1], [16, 1], [17, 1],
  ])('with the prefix, %i: %i numbers', (opcode, numbers) => {
    expect(taken(PREFIX, opcode)).toBe(numbers);
  }); // prettier-ignore
  it.each([
    [0x0c, 1], [0x0d, 1], [0x10, 1], [0x11, 2], [0x20, 1], [0x26, 1], [0x28, 2], [0x3e, 2], [0x3f, 1], [0x41, 1], [0x45, 0],
  ])('0x%s: %i numbers', (opcode, numbers) => {
    expect(taken(opcode)).toBe(numbers);
  }); // prettier-ignore
  it.each([[[PREFIX, 18]], [[0x06]], [[0xfd, 0]]])('%j is none that a chip of the bench knows', (opcode) => {
    expect(() => taken(...opcode)).toThrow('does not know');
  });
});
