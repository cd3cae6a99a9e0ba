import type { BoardAndChip } from '@jolly/core/board/withoutBootloader';
import { bootloaderEnds, bootloaderOf, bootRoom, sameBytes, withoutErased } from '../board/bootloader';
import type { BoardState } from '../board/boardState';
import { isLocked } from '../board/readOut';

/** Where a chip's data says nothing of its pages. */
const PAGE_BYTES = 256;
const ERASED = 0xff;

/** The flash of a chip as tools reach it: pages, erased before they are written, and lock words before the bootloader. */
export interface FlashMemory {
  pageBytes: number;
  signature: string;
  /** Where the bootloader's room ends. */
  ends: number;
  /** Pages written since it was made. */
  written(): number;
  read(at: number, length: number): Uint8Array;
  /** False where the lock words or the end of the flash forbid it. */
  erase(at: number): boolean;
  /** Writing clears bits only: what was not erased before is not what was sent. */
  write(at: number, bytes: Uint8Array): boolean;
  setLocked(locked: boolean): void;
}

/** Writes what a board holds into a memory, and reads out of it what the board holds then. */
export function flashMemory(
  state: BoardState,
  { board, chip }: BoardAndChip,
): FlashMemory & { left(meant: { at: number; bytes: Uint8Array }): BoardState } {
  const ends = bootloaderEnds(board);
  const bytes = new Uint8Array(ends + chip.flash_bytes).fill(ERASED);
  const pageBytes = chip.programming?.page_bytes ?? PAGE_BYTES;
  bytes.set(bootRoom(state, board).subarray(0, ends));
  bytes.set((state.image ?? new Uint8Array(0)).subarray(0, bytes.length), state.fromStart ? 0 : ends);
  let locked = isLocked(state, chip);
  let written = 0;
  /** Where settings are stored in the flash, they go with all of it. */
  let wiped = false;
  const forbids = (at: number, length: number) =>
    at < 0 || at + length > bytes.length || (locked && at < ends);

  return {
    pageBytes,
    signature: chip.programming?.signature ?? '000000',
    ends,
    written: () => written,
    read: (at, length) => bytes.slice(at, at + length),
    erase(at) {
      const page = at - (at % pageBytes);
      if (at >= bytes.length || forbids(page, Math.min(pageBytes, bytes.length - page))) return false;
      bytes.fill(ERASED, page, page + pageBytes);
      return true;
    },
    write(at, from) {
      if (forbids(at, from.length)) return false;
      for (const [index, byte] of from.entries()) bytes[at + index] = (bytes[at + index] ?? ERASED) & byte;
      written += 1;
      return true;
    },
    setLocked(to) {
      if (locked && !to && chip.programming?.unlock_erases) {
        bytes.fill(ERASED);
        wiped = chip.store.kind === 'emulated';
      }
      locked = to;
    },
    left(meant) {
      const room = withoutErased(bytes.subarray(0, ends));
      const bootloader = sameBytes(room, bootloaderOf(board));
      // What begins at the start of the flash lies where a bootloader would be.
      const fromStart = !bootloader && ends > 0 && (meant.at === 0 ? room.length > 0 : state.fromStart === true);
      const start = fromStart ? 0 : ends;
      const whole = start === meant.at && sameBytes(bytes.subarray(start, start + meant.bytes.length), meant.bytes);
      const holds = whole ? meant.bytes : withoutErased(bytes.subarray(start));
      const { fromStart: _, bootloader: __, ...rest } = state;
      return {
        ...rest,
        ...(wiped && { store: new Uint8Array(state.store.length).fill(ERASED) }),
        image: holds.length > 0 ? holds : null,
        ...(fromStart && { fromStart }),
        ...(!fromStart && { bootloader: room }),
        ...(locked !== isLocked(state, chip) || state.locked !== undefined ? { locked } : {}),
      };
    },
  };
} // prettier-ignore
