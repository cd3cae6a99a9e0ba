import type { Chip } from '@jolly/core/board/chip';

/** How long one byte takes to be kept, in ns. */
const WRITE_NS: Record<Chip['store']['kind'], number> = { eeprom: 3.3e6, emulated: 40e3 };

/** What is left of a byte whose writing was cut. */
const ERASED = 0xff;

/** The memory of settings, a byte at a time. What is being written when the power goes is not kept. */
export interface KeptStore {
  /** As it is when the power goes now. */
  bytes(now: number): Uint8Array;
  read(at: number): number;
  write(at: number, byte: number, now: number): void;
  busy(now: number): boolean;
}

export function keptStore(from: Uint8Array, chip: Chip, written: () => void): KeptStore {
  const bytes = Uint8Array.from(from);
  let freeAt = 0;
  let last = 0;
  return {
    bytes: (now) => bytes.map((byte, at) => (now < freeAt && at === last ? ERASED : byte)),
    read: (at) => bytes[at] ?? ERASED,
    write(at, byte, now) {
      if (at >= bytes.length || now < freeAt) return;
      bytes[at] = byte;
      last = at;
      freeAt = now + WRITE_NS[chip.store.kind];
      written();
    },
    busy: (now) => now < freeAt,
  };
}
