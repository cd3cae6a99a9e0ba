import type { Filled } from '../tree/filled';
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
  const groups: Filled<Segment>[] = [];
  let end = -1;
  for (const piece of sorted) {
    const group = groups.at(-1);
    if (group && piece.address === end) group.push(piece);
    else groups.push([piece]);
    end = piece.address + piece.bytes.length;
  }
  return groups.map((group) => {
    const [{ address }] = group;
    const bytes = new Uint8Array(group.reduce((sum, piece) => sum + piece.bytes.length, 0));
    for (const piece of group) bytes.set(piece.bytes, piece.address - address);
    return { address, bytes };
  });
}

/** A piece of memory: where it begins, and how many bytes it has. */
export interface Memory {
  at: number;
  bytes: number;
}

/** Whether every byte is 0xFF, as an erased flash shows them. */
export const isErased = (segments: readonly Segment[]): boolean =>
  segments.every(({ bytes }) => bytes.every((byte) => byte === 0xff));

/** The first address at which segments have bytes outside a memory; undefined when all lie within. */
export function firstOutside(segments: readonly Segment[], { at, bytes: room }: Memory): number | undefined {
  const end = at + room;
  const out = segments.find(
    ({ address, bytes }) => bytes.length > 0 && (address < at || address + bytes.length > end),
  );
  return out && (out.address < at ? out.address : Math.max(out.address, end));
}

/**
 * What a memory holds after segments were written into it erased: from its beginning to the last byte that was
 * written. Bytes outside it are left away, so that the result is never longer than the memory, however far apart the
 * segments lie.
 */
export function laidInto(segments: readonly Segment[], { at, bytes: room }: Memory): Uint8Array {
  const inside = segments
    .map(({ address, bytes }) => {
      const from = Math.min(bytes.length, Math.max(0, at - address));
      return { to: address + from - at, bytes: bytes.subarray(from, Math.max(from, at + room - address)) };
    })
    .filter(({ bytes }) => bytes.length > 0);
  const length = inside.reduce((end, { to, bytes }) => Math.max(end, to + bytes.length), 0);
  const memory = new Uint8Array(length).fill(0xff);
  for (const { to, bytes } of inside) memory.set(bytes, to);
  return memory;
}
