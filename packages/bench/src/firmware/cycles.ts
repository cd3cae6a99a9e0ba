import type { Chip } from '@jolly/core/board/chip';

/** Cycles a kind of instruction takes on a class of chips. */
export interface CycleCosts {
  call: number;
  plain: number;
  memory: number;
  /** 64 bits. */
  long: number;
  multiply: number;
  divide: number;
  /** Single precision: adding and comparing, multiplying, dividing and roots. */
  float: number;
  floatMultiply: number;
  floatDivide: number;
}

/**
 * Typical counts of the two classes: a 32-bit chip without a floating unit, which calls short routines, and an 8-bit
 * chip, which does everything byte by byte. They are the bench's own, not a chip's data sheet.
 */
const BY_WORD_BITS: Record<Chip['word_bits'], CycleCosts> = {
  32: { call: 6, plain: 1, memory: 2, long: 4, multiply: 1, divide: 12, float: 20, floatMultiply: 20, floatDivide: 60 }, // prettier-ignore
  8: { call: 10, plain: 2, memory: 4, long: 20, multiply: 20, divide: 300, float: 80, floatMultiply: 110, floatDivide: 350 }, // prettier-ignore
};

export const cycleCosts = ({ word_bits }: Pick<Chip, 'word_bits'>): CycleCosts => BY_WORD_BITS[word_bits];

/** Opcodes that cost nothing by themselves: blocks, ends, constants and locals become part of what uses them. */
const FREE = new Set([0x01, 0x02, 0x03, 0x04, 0x05, 0x0b, 0x20, 0x41, 0x42, 0x43, 0x44]);

const KINDS: readonly (readonly [from: number, to: number, kind: keyof CycleCosts])[] = [
  [0x10, 0x11, 'call'],
  [0x28, 0x3e, 'memory'],
  [0x50, 0x5a, 'long'],
  [0x5b, 0x66, 'float'],
  [0x6c, 0x6c, 'multiply'],
  [0x6d, 0x70, 'divide'],
  [0x79, 0x8a, 'long'],
  [0x8b, 0x90, 'float'],
  [0x91, 0x91, 'floatDivide'],
  [0x92, 0x93, 'float'],
  [0x94, 0x94, 'floatMultiply'],
  [0x95, 0x95, 'floatDivide'],
  [0x96, 0xa6, 'float'],
  [0xa8, 0xab, 'float'],
  [0xac, 0xad, 'long'],
  [0xae, 0xbb, 'float'],
];

/** What one instruction costs, in cycles. */
export function costOf(opcode: number, costs: CycleCosts): number {
  if (FREE.has(opcode)) return 0;
  const row = KINDS.find(([from, to]) => opcode >= from && opcode <= to);
  return row ? costs[row[2]] : costs.plain;
}
