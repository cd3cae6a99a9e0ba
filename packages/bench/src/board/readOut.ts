import type { Board } from '@jolly/core/board/board';
import type { Chip, Readable } from '@jolly/core/board/chip';
import { crc32Of } from '@jolly/core/bytes/crc32';
import type { BoardState } from './boardState';
import { bootloaderEnds, bootRoom } from './bootloader';

/**
 * What a programmer or probe reads out of a board: the flash behind the bootloader (0xFF where nothing was ever
 * written), the bootloader, the lock words, the stored settings. Undefined where the chip does not give it.
 */
export function readOut(state: BoardState, board: Board, chip: Chip, what: Readable): Uint8Array | undefined {
  if (!chip.gives.includes(what)) return undefined;
  const reads: Record<Readable, () => Uint8Array> = {
    image: () => state.image ?? new Uint8Array(chip.flash_bytes).fill(0xff),
    store: () => state.store,
    bootloader: () => roomOf(state, board),
    options: () => optionBytes(state, board, chip),
  };
  return reads[what]();
}

/** The whole room of the bootloader; what lies over it when an image begins at the start. */
function roomOf(state: BoardState, board: Board): Uint8Array {
  const room = new Uint8Array(bootloaderEnds(board)).fill(0xff);
  room.set((state.fromStart ? (state.image ?? room) : bootRoom(state, board)).subarray(0, room.length));
  return room;
}

/** Whether the lock words keep tools out of the bootloader's room. */
export const isLocked = ({ locked }: BoardState, { programming }: Chip): boolean =>
  locked ?? programming?.locked_as_sold ?? false;

/** Eight bytes: up to where nothing may be written (0 while unlocked), and a sum that tells boards apart. */
function optionBytes(state: BoardState, board: Board, chip: Chip): Uint8Array {
  const bytes = new Uint8Array(8);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, isLocked(state, chip) ? chip.flash_at + bootloaderEnds(board) : 0, true);
  view.setUint32(4, crc32Of(new TextEncoder().encode(`${board.id} ${board.revision}`)), true);
  return bytes;
}
