import type { Board } from '@jolly/core/board/board';
import type { Landing } from '@jolly/core/machine/landing';
import { contactAt } from '@jolly/core/board/plugRoom';
import { headerOf } from '@jolly/core/board/contacts';
import { parseContact } from '@jolly/core/circuit/leadOrder';
import type { Wiring } from './useWiring';

export interface Point {
  x: number;
  y: number;
}

/** Where a lead ends on a board, in drawing coordinates (back edge on top): its pin contact, else its first. */
export function endPoint(board: Board, landing: Landing | undefined): Point | undefined {
  if (!landing) return undefined;
  const depth = board.outline_mm.y;
  if ('socket' in landing) {
    const socket = board.sockets.find(({ id }) => id === landing.socket);
    if (!socket) return undefined;
    if (!socket.motor) return { x: socket.at_mm.x + 7, y: depth - socket.at_mm.y };
    const middle = contactAt({ ...socket.motor, contacts: socket.motor.order }, 2.5);
    return { x: middle.x, y: depth - middle.y };
  }
  const contact = landing.leads['signal'] ?? landing.leads['control'] ?? Object.values(landing.leads)[0];
  const header = contact === undefined ? undefined : headerOf(board, contact);
  if (!header || contact === undefined) return undefined;
  const at = contactAt(header, parseContact(contact).number);
  return { x: at.x, y: depth - at.y };
}

/** A lead as a curve that leaves and arrives level, so that it does not run along a row of names. */
export function curve(from: Point, to: Point): string {
  const reach = Math.max(10, Math.abs(to.x - from.x) * 0.45);
  const way = to.x >= from.x ? 1 : -1;
  const [a, b] = [from.x + way * reach, to.x - way * reach];
  return `M${from.x.toFixed(2)} ${from.y.toFixed(2)}C${a.toFixed(2)} ${from.y.toFixed(2)} ${b.toFixed(2)} ${to.y.toFixed(2)} ${to.x.toFixed(2)} ${to.y.toFixed(2)}`;
}

/** Header or socket a landing is known by on the drawing. */
export function placeOf(landing: Landing): string {
  if ('socket' in landing) return landing.socket;
  const contact =
    landing.leads['signal'] ?? landing.leads['control'] ?? Object.values(landing.leads)[0] ?? '';
  return parseContact(contact).header;
}

/** Where the old board lies when the new one lies over it: on the same posts, else on the same corner. */
export function overlaid({ view, boards }: Wiring, newAt: Point): Point {
  const { holes } = view.plan;
  if (!holes || holes.verdict === 'no' || holes.rotation !== 0)
    return { x: newAt.x, y: newAt.y + boards.after.outline_mm.y - boards.before.outline_mm.y };
  return {
    x: newAt.x - holes.shift.x,
    y: newAt.y + boards.after.outline_mm.y - boards.before.outline_mm.y + holes.shift.y,
  };
}
