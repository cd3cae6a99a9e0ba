import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Board } from '@jolly/core/board/board';
import { readCatalogue } from '@jolly/core/formats/catalogueFiles';
import { type Chip, READABLE } from '@jolly/core/board/chip';
import { describe, expect, it } from 'vitest';
import { blankBoard, readOut, writeByProgrammer } from '../src/index';

const folder = (name: string) => join(import.meta.dirname, '../../../catalogue', name);
const { catalogue } = readCatalogue(
  ['boards', 'chips'].flatMap((name) =>
    readdirSync(folder(name)).map((file) => ({
      path: file,
      text: readFileSync(join(folder(name), file), 'utf8'),
    })),
  ),
);
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
      seen.add(new TextDecoder().decode(bytes.subarray(0, 80)));
      expect(seen.size, name).toBe([...seen].length);
    }
    expect(seen.size).toBe(pairs.filter(([, , chip]) => chip.gives.includes('bootloader')).length);
  });
  it('writes anything that fits, reads it back the same, and refuses the rest without touching the flash', () => {
    const [, board, chip] = pairs[0]!;
    const state = blankBoard(chip);
    const bytes = Uint8Array.from({ length: 100 }, (_, index) => index);
    const written = writeByProgrammer(state, bytes, chip);
    if ('refused' in written) throw new Error(written.refused);
    expect(readOut(written.state, board, chip, 'image')).toEqual(bytes);
    expect(state.image).toBeNull();
    expect(writeByProgrammer(state, new Uint8Array(chip.flash_bytes + 1), chip)).toMatchObject({
      refused: expect.stringContaining(`the flash holds ${chip.flash_bytes}`) as string,
    });
  });
});
