import type { Chip } from '@jolly/core/board/chip';

/** What a board keeps while it is off, and what it has done with cards before. */
export interface BoardState {
  /** What its flash holds where images begin; null when nothing was ever written there. */
  image: Uint8Array | null;
  /** The image begins at the first byte of the flash, where a bootloader would be. */
  fromStart?: true;
  /** What stands in the bootloader's room, without the erased end; missing while it is as it was sold. */
  bootloader?: Uint8Array;
  /** Whether the lock words keep tools out of the bootloader; missing while they are as they were sold. */
  locked?: boolean;
  /** Stored settings; as long as the chip's store. */
  store: Uint8Array;
  /** Names of files it has taken, as they were written on the card. */
  namesTaken: string[];
}

/** A board as it leaves the factory: nothing in it. */
export function blankBoard(chip: Chip): BoardState {
  return { image: null, store: new Uint8Array(chip.store.bytes).fill(0xff), namesTaken: [] };
}
