import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import type { BoardState } from './boardState';

/** What a board keeps while it is off, as it travels and is stored: bytes as base64, the image apart. */
export interface PackedBoard {
  store: string;
  namesTaken: string[];
  boot?: { bootloader?: string; fromStart?: true; locked?: boolean };
}

export function packed({ store, namesTaken, bootloader, fromStart, locked }: BoardState): PackedBoard {
  const boot = {
    ...(bootloader && { bootloader: toBase64(bootloader) }),
    ...(fromStart && { fromStart }),
    ...(locked !== undefined && { locked }),
  };
  const asSold = Object.keys(boot).length === 0;
  return { store: toBase64(store), namesTaken, ...(!asSold && { boot }) };
}

export function unpacked({ store, namesTaken, boot }: PackedBoard, image: Uint8Array | null): BoardState {
  const { bootloader, ...rest } = boot ?? {};
  return {
    image,
    store: fromBase64(store),
    namesTaken,
    ...rest,
    ...(bootloader !== undefined && { bootloader: fromBase64(bootloader) }),
  };
}
