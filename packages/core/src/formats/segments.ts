/** A run of bytes at an address. A file may hold several, with gaps between them. */
export interface Segment {
  address: number;
  bytes: Uint8Array;
}

/** One piece as it stood in a file: `at` is its line or block, counted from 1. */
export interface Piece extends Segment {
  at: number;
}

/** The first piece that covers bytes an earlier address already has, in the order of the file. */
export function overlapAt(pieces: Piece[]): Piece | undefined {
  const sorted = [...pieces].sort((a, b) => a.address - b.address || a.at - b.at);
  let clash: Piece | undefined;
  let end = -1;
  let last: Piece | undefined;
  for (const piece of sorted) {
    if (last && piece.address < end) {
      const later = piece.at > last.at ? piece : last;
      if (!clash || later.at < clash.at) clash = later;
    }
    if (piece.address + piece.bytes.length > end) {
      end = piece.address + piece.bytes.length;
      last = piece;
    }
  }
  return clash;
}

/** Pieces in rising order, those that touch joined into one segment each. They must not overlap. */
export function joinSegments(pieces: Segment[]): Segment[] {
  const sorted = pieces.filter((piece) => piece.bytes.length > 0).sort((a, b) => a.address - b.address);
  const groups: Segment[][] = [];
  let end = -1;
  for (const piece of sorted) {
    if (piece.address !== end || groups.length === 0) groups.push([]);
    groups.at(-1)!.push(piece);
    end = piece.address + piece.bytes.length;
  }
  return groups.map((group) => {
    const length = group.reduce((sum, piece) => sum + piece.bytes.length, 0);
    const bytes = new Uint8Array(length);
    for (const piece of group) bytes.set(piece.bytes, piece.address - group[0]!.address);
    return { address: group[0]!.address, bytes };
  });
}

/**
 * The bytes of all segments from `address` on, gaps filled with 0xFF as an erased flash shows them. What lies
 * before the address is left out.
 */
export function flatten(segments: Segment[], address: number): Uint8Array {
  const end = Math.max(address, ...segments.map((segment) => segment.address + segment.bytes.length));
  const flat = new Uint8Array(end - address).fill(0xff);
  for (const segment of segments) {
    const skip = Math.max(0, address - segment.address);
    if (skip < segment.bytes.length) flat.set(segment.bytes.subarray(skip), segment.address + skip - address);
  }
  return flat;
}
