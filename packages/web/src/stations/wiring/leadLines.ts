import type { Board } from '@jolly/core/board/board';
import type { Landing } from '@jolly/core/machine/landing';
import { contactAt } from '@jolly/core/board/plugRoom';
import { headerOf } from '@jolly/core/board/contacts';
import { parseContact } from '@jolly/core/circuit/leadOrder';
import type { Box } from '../../ui/headerNames';
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

/** Where a curve is led: two points it is drawn towards on its way. */
type Bend = (from: Point, to: Point) => [Point, Point];

const level: Bend = (from, to) => {
  const reach = Math.max(10, Math.abs(to.x - from.x) * 0.45);
  const way = to.x >= from.x ? 1 : -1;
  return [
    { x: from.x + way * reach, y: from.y },
    { x: to.x - way * reach, y: to.y },
  ];
};
/** Leaves level and arrives upright, from so far below (or above, when it is less than nothing). */
const upright =
  (by: number): Bend =>
  (from, to) => [level(from, to)[0], { x: to.x, y: to.y + by }];

/** How a lead may run, the plainest first. */
const BENDS: readonly Bend[] = [level, ...[14, -14, 28, -28, 45, -45, 70, -70].map(upright)];

/** Points on a curve that are looked at for whether they lie on a name. */
const SAMPLES = 32;

function onNames(from: Point, [a, b]: [Point, Point], to: Point, names: readonly Box[]): number {
  let hits = 0;
  for (let step = 1; step < SAMPLES; step += 1) {
    const t = step / SAMPLES;
    const u = 1 - t;
    const weigh = (p: number, q: number, r: number, s: number) =>
      u * u * u * p + 3 * u * u * t * q + 3 * u * t * t * r + t * t * t * s;
    const [x, y] = [weigh(from.x, a.x, b.x, to.x), weigh(from.y, a.y, b.y, to.y)];
    if (names.some(({ left, right, top, bottom }) => x > left && x < right && y > top && y < bottom))
      hits += 1;
  }
  return hits;
}

/** A lead as a curve from end to end, the plainest of those that lie least on the names of headers. */
export function curve(from: Point, to: Point, names: readonly Box[] = []): string {
  let [best, least] = [level(from, to), Infinity];
  for (const bend of BENDS) {
    const way = bend(from, to);
    const hits = onNames(from, way, to, names);
    if (hits < least) [best, least] = [way, hits];
    if (least === 0) break;
  }
  const at = ({ x, y }: Point) => `${x.toFixed(2)} ${y.toFixed(2)}`;
  return `M${at(from)}C${at(best[0])} ${at(best[1])} ${at(to)}`;
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
