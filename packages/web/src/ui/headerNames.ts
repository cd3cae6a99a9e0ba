import type { Board } from '@jolly/core/board/board';
import { plugRoom } from '@jolly/core/board/plugRoom';

/** Width of a letter of a header's name, and the height of a name, in millimetres. */
const LETTER = 1.8;
const NAME_HEIGHT = 2.6;

/** Where the name of a header stands: the middle of its base line, in drawing coordinates (back edge on top). */
export interface HeaderName {
  id: string;
  x: number;
  y: number;
}

/** The names of a board's headers. Where they would run into each other in a row, every other one stands below. */
export function headerNames({
  headers,
  outline_mm: { y: depth },
}: Pick<Board, 'headers' | 'outline_mm'>): HeaderName[] {
  const ends: { y: number; right: number }[] = [];
  return [...headers]
    .sort((a, b) => a.at_mm.x - b.at_mm.x)
    .map((header) => {
      const room = plugRoom(header);
      const x = (room.left + room.right) / 2;
      const half = (header.id.length * LETTER) / 2;
      const crowded = ends.some(({ y, right }) => Math.abs(y - room.back) < 3 && right > x - half);
      if (!crowded) ends.push({ y: room.back, right: x + half });
      return { id: header.id, x, y: crowded ? depth - room.front + 3 : depth - room.back - 0.9 };
    });
}

export interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The room a name takes. */
export function boxOf({ id, x, y }: HeaderName): Box {
  const half = (id.length * LETTER) / 2;
  return { left: x - half, right: x + half, top: y - NAME_HEIGHT, bottom: y + 0.5 };
}
