import type { Board } from '@jolly/core/board/board';
import { type Chip, READABLE } from '@jolly/core/board/chip';
import { describe, expect, it } from 'vitest';
import { catalogue } from './fixtures/catalogue';
import { blankBoard, readOut } from '../src/index';

const pairs = catalogue.boards.map((board): [string, Board, Chip] => [
  `${board.id} ${board.revision}`,
  board,
  catalogue.chips.find((chip) => chip.id === board.chip)!,
]);

describe('a programmer', () => {
  it.each(pairs)('reads out of %s what its chip gives, and nothing else', (_name, board, chip) => {
    const state = blankBoard(chip);
    for (const what of READABLE) {
      const bytes = readOut(state, board, chip, what);
      expect(bytes !== undefined).toBe(chip.gives.includes(what));
    }
    expect(readOut(state, board, chip, 'image')!.every((byte) => byte === 0xff)).toBe(true);
    expect(readOut(state, board, chip, 'image')!.length).toBe(chip.flash_bytes);
  });
  it('the bootloader fills the flash before the load address, and differs between boards', () => {
    const seen = new Set<string>();
    for (const [name, board, chip] of pairs) {
      const bytes = readOut(blankBoard(chip), board, chip, 'bootloader');
      if (!bytes) continue;
      expect(bytes.length).toBe(board.routes[0].load_address);
      if (board.sold_bare) continue;
      seen.add(new TextDecoder().decode(bytes.subarray(0, 80)));
      expect(seen.size, name).toBe([...seen].length);
    }
    expect(seen.size).toBe(
      pairs.filter(([, board, chip]) => chip.gives.includes('bootloader') && !board.sold_bare).length,
    );
  });
});
