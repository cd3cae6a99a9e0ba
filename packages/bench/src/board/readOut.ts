import type { Board } from '@jolly/core/board/board';
import type { Chip, Readable } from '@jolly/core/board/chip';
import { crc32Of } from '@jolly/core/bytes/crc32';
import type { BoardState } from './board';

/**
 * What a programmer or probe reads out of a board: the flash behind the bootloader (0xFF where nothing was ever
 * written), the bootloader, the lock words, the stored settings. Undefined where the chip does not give it.
 */
export function readOut(state: BoardState, board: Board, chip: Chip, what: Readable): Uint8Array | undefined {
  if (!chip.gives.includes(what)) return undefined;
  const reads: Record<Readable, () => Uint8Array> = {
    image: () => state.image ?? new Uint8Array(chip.flash_bytes).fill(0xff),
    store: () => state.store,
    bootloader: () => bootloaderOf(board),
    options: () => optionBytes(board, chip),
  };
  return reads[what]();
}

/** The bench's own bootloader: what it goes by, written into the flash before the load address. */
function bootloaderOf(board: Board): Uint8Array {
  const route = board.routes[0];
  const told = new TextEncoder().encode(`JCB1${JSON.stringify({ target: route.target, rule: route.rule })}`);
  const flash = new Uint8Array(Math.max(route.load_address, told.length)).fill(0xff);
  flash.set(told);
  return flash;
}

/** Eight bytes: where the chip starts, and a sum that tells boards apart. */
function optionBytes(board: Board, chip: Chip): Uint8Array {
  const bytes = new Uint8Array(8);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, chip.flash_at + board.routes[0].load_address, true);
  view.setUint32(4, crc32Of(new TextEncoder().encode(`${board.id} ${board.revision}`)), true);
  return bytes;
}

/** A programmer writes the flash behind the bootloader, whatever it is, and reads it back to compare. */
export function writeByProgrammer(
  state: BoardState,
  bytes: Uint8Array,
  chip: Chip,
): { state: BoardState } | { refused: string } {
  if (bytes.length > chip.flash_bytes)
    return { refused: `the image has ${bytes.length} bytes; the flash holds ${chip.flash_bytes}` };
  return { state: { ...state, image: bytes } };
}
