import type { Chip } from '@jolly/core/board/chip';
import { describe, expect, it } from 'vitest';
import { costOf, cycleCosts } from '../src/firmware/cycles';

/** Stretches of the core's opcodes that cost the same: the first and last of them, and the cycles. */
function stretches(word_bits: Chip['word_bits']): string[] {
  const costs = cycleCosts({ word_bits });
  const hex = (opcode: number) => opcode.toString(16).padStart(2, '0');
  const found: { from: number; to: number; cost: number }[] = [];
  for (let opcode = 0; opcode <= 0xc4; opcode += 1) {
    const cost = costOf(opcode, costs);
    const last = found.at(-1);
    if (last?.cost === cost) last.to = opcode;
    else found.push({ from: opcode, to: opcode, cost });
  }
  return found.map(({ from, to, cost }) => `${hex(from)}-${hex(to)} ${cost}`);
}

describe('what an instruction costs', () => {
  it.each([32, 8] as const)('on a chip of %i bits', (bits) => {
    expect(stretches(bits).join('\n')).toMatchSnapshot();
  });
  it('is most for what the chip has to work out piece by piece', () => {
    for (const word_bits of [32, 8] as const) {
      const costs = cycleCosts({ word_bits });
      const [plain, multiply, divide] = [0x6a, 0x6c, 0x6d].map((opcode) => costOf(opcode, costs));
      expect([plain! <= multiply!, multiply! < divide!]).toEqual([true, true]);
      const [add, times, over, root] = [0x92, 0x94, 0x95, 0x91].map((opcode) => costOf(opcode, costs));
      expect([plain! < add!, add! <= times!, times! < over!, over === root]).toEqual(Array(4).fill(true));
    }
  });
});
