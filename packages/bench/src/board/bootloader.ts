import type { Board } from '@jolly/core/board/board';
import { cardRouteOf } from '@jolly/core/board/route';
import type { BoardState } from './boardState';

/** Where the bootloader's room ends and an image behind it begins. */
export const bootloaderEnds = ({ routes: [route] }: Board): number => route.load_address;

/** The bench's own bootloader of a board: what it goes by, without the erased rest of its room. */
export function bootloaderOf(board: Board): Uint8Array {
  const [{ target }] = board.routes;
  const rule = cardRouteOf(board)?.rule;
  return new TextEncoder().encode(`JCB1${JSON.stringify({ target, ...(rule && { rule }) })}`);
}

const NONE = new Uint8Array(0);

/** What stands in the bootloader's room, without its erased end. */
export const bootRoom = (state: BoardState, board: Board): Uint8Array =>
  state.bootloader ?? (board.sold_bare ? NONE : bootloaderOf(board));

/** Whether a bootloader that works stands before the image. */
export function hasBootloader(state: BoardState, board: Board): boolean {
  return !state.fromStart && sameBytes(bootRoom(state, board), bootloaderOf(board));
}

export const sameBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, at) => byte === b[at]);

/** Bytes without the erased ones at their end. */
export function withoutErased(bytes: Uint8Array): Uint8Array {
  let end = bytes.length;
  while (end > 0 && bytes[end - 1] === 0xff) end -= 1;
  return bytes.slice(0, end);
}
