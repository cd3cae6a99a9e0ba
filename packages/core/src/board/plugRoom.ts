import type { Board } from './board';

/** Something with contacts in a row that a plug goes onto. */
export interface ContactRow {
  at_mm: { x: number; y: number };
  runs?: 'right' | 'up';
  pitch_mm: number;
  contacts: readonly unknown[];
}
export interface Rect {
  left: number;
  right: number;
  front: number;
  back: number;
}

/** The room the body of a row takes on the board, half a pitch around its contacts; millimetres. */
export function plugRoom({ at_mm, runs, pitch_mm, contacts }: ContactRow): Rect {
  const half = pitch_mm / 2;
  const length = (contacts.length - 1) * pitch_mm;
  return {
    left: at_mm.x - half,
    right: at_mm.x + half + (runs === 'up' ? 0 : length),
    front: at_mm.y - half,
    back: at_mm.y + half + (runs === 'up' ? length : 0),
  };
}

/** Centre of a contact of a row; numbers start at 1. */
export function contactAt({ at_mm, runs, pitch_mm }: ContactRow, number: number): { x: number; y: number } {
  const along = (number - 1) * pitch_mm;
  return runs === 'up' ? { x: at_mm.x, y: at_mm.y + along } : { x: at_mm.x + along, y: at_mm.y };
}

export interface NamedRow {
  /** Where the board file tells of it. */
  path: string;
  name: string;
  row: ContactRow;
}

/** Every row of contacts on a board: its headers, and where motors plug in. */
export function contactRows(board: Pick<Board, 'headers' | 'sockets'>): NamedRow[] {
  return [
    ...board.headers.map((header, index) => ({ path: `headers.${index}`, name: header.id, row: header })),
    ...board.sockets.flatMap(({ id, motor }, index) =>
      motor
        ? [
            {
              path: `sockets.${index}.motor`,
              name: `the motor plug of ${id}`,
              row: { ...motor, contacts: motor.order },
            },
          ]
        : [],
    ),
  ];
}

export const overlap = (a: Rect, b: Rect) =>
  a.left < b.right && b.left < a.right && a.front < b.back && b.front < a.back;
