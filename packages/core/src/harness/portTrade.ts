import { contactNet } from '../board/contacts';
import type { Landing } from '../machine/landing';
import { sameValue } from '../tree/sameValue';
import { findHarness } from './findHarness';
import { FAULT_POINTS } from './prices';
import type { WiringCase } from './wiringCase';

/** The cheapest way to leave a doubtful port alone. */
export interface PortTrade {
  /** Every lead that moves, with its new place. */
  moves: { part: string; to: Landing }[];
  price: number;
  /** What each move costs and what is given up. */
  lines: string[];
  /** What cannot be connected any more, in words; empty for most boards. */
  unmeetable: string[];
}

/** The harness of least price when the pin of a contact is taken for faulty, against the one there is. */
export function portTrade(
  wiring: WiringCase,
  harness: Readonly<Record<string, Landing>>,
  contact: string,
): PortTrade | undefined {
  const net = contactNet(wiring.board, contact);
  if (!net || !('pin' in net)) return undefined;
  const doubted = {
    id: 'doubted',
    pins: [net.pin],
    what: 'it did not pass the exchange test',
    hits: 'any' as const,
    sure: 'proven' as const,
    way_out: 'use another port',
  };
  const board = { ...wiring.board, faults: [...(wiring.board.faults ?? []), doubted] };
  const found = findHarness({ ...wiring, board, before: { board, harness } });
  const moved = found.placed.filter(({ parts }) =>
    parts.some((id) => !sameValue(harness[id], found.harness[id])),
  );
  const own = new Set(moved.flatMap(({ parts }) => parts));
  const lines = [...moved.flatMap((unit) => unit.lines), ...found.losses];
  // A port nobody can leave is still priced as faulty.
  const stays = found.placed.some(({ lines: all }) => all.some(({ id, points }) => id === 'fault' && points === FAULT_POINTS.proven)); // prettier-ignore
  return {
    moves: [...own].flatMap((part) => (found.harness[part] ? [{ part, to: found.harness[part] }] : [])),
    price: lines.reduce((sum, { points }) => sum + points, 0),
    lines: lines.map(({ points, what }) => `${points}: ${what}`),
    unmeetable: [
      ...found.unmeetable.flatMap(({ because }) => because),
      ...(stays && moved.length === 0 ? ['every other place costs more than a faulty one'] : []),
    ],
  };
}
