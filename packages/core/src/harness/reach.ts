import type { Board } from '../board/board';
import { contactAt } from '../board/plugRoom';
import type { BoardSide, Machine } from '../machine/machine';
import type { LeadLanding } from '../machine/landing';
import { parseContact } from '../circuit/leadOrder';

/** Millimetres a lead keeps for its bow and for strain relief inside the bay. */
export const SLACK_MM = 60;

/** From the side where cables come in, straight over the board to a contact; millimetres. */
function acrossBoard(board: Board, enters: BoardSide, contact: string): number | undefined {
  const { header: id, number } = parseContact(contact);
  const header = board.headers.find((entry) => entry.id === id);
  if (!header) return undefined;
  const at = contactAt(header, number);
  return { front: at.y, back: board.outline_mm.y - at.y, left: at.x, right: board.outline_mm.x - at.x }[
    enters
  ];
}

/**
 * Length a part's lead needs: its way at full travel, over the board to the farthest contact, and the slack.
 * Undefined where way or bay were not measured.
 */
export function lengthNeeded(
  board: Board,
  landing: LeadLanding,
  route_mm: number | undefined,
  bay: Machine['bay'],
): number | undefined {
  if (route_mm === undefined || !bay) return undefined;
  const over = Object.values(landing.leads).map((contact) => acrossBoard(board, bay.enters, contact) ?? 0);
  return route_mm + Math.max(...over) + SLACK_MM;
}
