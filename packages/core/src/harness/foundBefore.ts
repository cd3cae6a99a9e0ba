import type { Board } from '../board/board';
import type { Landing } from '../machine/landing';
import { findHarness, type FoundHarness } from './findHarness';
import type { WiringCase } from './wiringCase';

const KEPT = 24;
const found = new WeakMap<Board, Map<string, FoundHarness>>();

/** The same as findHarness; of the last few cases the answer is kept, as a job asks for them at every step. */
export function foundBefore(wiring: WiringCase, told: Readonly<Record<string, Landing>>): FoundHarness {
  const { board, before, parts, ...rest } = wiring;
  const key = JSON.stringify([
    before && [before.board.id, before.board.revision, before.harness],
    parts.map(({ id, role, type }) => [id, role, type.id]),
    rest.vin,
    rest.cables,
    rest.bay,
    rest.jumpers,
    told,
  ]);
  const onBoard = found.get(board) ?? new Map<string, FoundHarness>();
  found.set(board, onBoard);
  const known = onBoard.get(key);
  if (known) return known;
  const fresh = findHarness(wiring, told);
  const [oldest] = onBoard.keys();
  if (onBoard.size >= KEPT && oldest !== undefined) onBoard.delete(oldest);
  onBoard.set(key, fresh);
  return fresh;
}
