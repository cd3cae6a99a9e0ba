/** What a tool is doing, for the person who waits. */
export type Phase = 'calling' | 'unlocking' | 'erasing' | 'writing' | 'reading back' | 'leaving';

/** Bytes a tool sends, how many it wants back, and how long it waits for them. */
export interface Sending {
  send: Uint8Array;
  want: number;
  waitMs?: number;
  /** The wire is silent so long afterwards: the chip works. */
  busyMs?: number;
}
/** What came back within the time, perhaps less than was wanted; undefined where nothing did. */
export type Heard = Uint8Array | undefined;
/** A part of what a tool does: it sends, hears, and comes to something. */
export type Talk<T> = Generator<Sending, T, Heard>;

/** The other end of the wire: it hears a byte and may answer bytes. */
export interface Listener {
  hear(byte: number): readonly number[];
}

/** Nobody is there. */
export const nobody: Listener = { hear: () => [] };

/** How a tool speaks to a chip by one protocol. Addresses count from the first byte of the flash. */
export interface Dialog {
  /** Calls it; the signature it answers, undefined where nobody answers. */
  call(): Talk<string | undefined>;
  /** Missing where the protocol erases as it writes. */
  erase?(at: number): Talk<boolean>;
  write(at: number, page: Uint8Array): Talk<boolean>;
  /** Missing where nothing can be read back. */
  read?(at: number, length: number): Talk<Heard>;
  /** Missing where the protocol cannot change lock words. */
  setLocked?(locked: boolean): Talk<boolean>;
  leave(): Talk<void>;
}

export const word = (value: number): number[] => [0, 8, 16, 24].map((shift) => (value >>> shift) & 0xff);
export const wordAt = (bytes: ArrayLike<number>, at: number): number =>
  [3, 2, 1, 0].reduce((sum, place) => ((sum << 8) | (bytes[at + place] ?? 0)) >>> 0, 0);
export const bytesOfHex = (hex: string): number[] =>
  Array.from({ length: hex.length / 2 }, (_, at) => parseInt(hex.slice(2 * at, 2 * at + 2), 16));
export const hexOf = (bytes: ArrayLike<number>): string =>
  Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
