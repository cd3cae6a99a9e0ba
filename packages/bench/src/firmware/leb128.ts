/** A place in bytes that moves on as they are read. */
export interface Cursor {
  bytes: Uint8Array;
  at: number;
}

/** The next byte. @throws {Error} behind the end */
export function byteAt(cursor: Cursor): number {
  const byte = cursor.bytes[cursor.at];
  if (byte === undefined) throw new Error('the image ends in the middle');
  cursor.at += 1;
  return byte;
}

/** The next unsigned number of up to 32 bits, seven bits a byte. */
export function readLeb(cursor: Cursor): number {
  let value = 0;
  for (let shift = 0; shift < 35; shift += 7) {
    const byte = byteAt(cursor);
    value += (byte & 0x7f) * 2 ** shift;
    if (byte < 0x80) return value;
  }
  throw new Error('the image holds a number that is too long');
}

/** Skips a signed number of any length. */
export function skipLeb(cursor: Cursor): void {
  while (byteAt(cursor) >= 0x80);
}

export function sliceFrom(cursor: Cursor, length: number): Uint8Array {
  if (cursor.at + length > cursor.bytes.length) throw new Error('the image ends in the middle');
  cursor.at += length;
  return cursor.bytes.subarray(cursor.at - length, cursor.at);
}

export function lebBytes(value: number): number[] {
  const bytes = [];
  for (let left = value; ; left = Math.floor(left / 128)) {
    if (left < 128) return [...bytes, left];
    bytes.push((left % 128) | 0x80);
  }
}

/** A signed number that is not negative: one more bit, so that its sign stays. */
export function signedLebBytes(value: number): number[] {
  const bytes = lebBytes(value);
  const last = bytes.at(-1) ?? 0;
  if (last < 0x40) return bytes;
  return [...bytes.slice(0, -1), last | 0x80, 0];
}
