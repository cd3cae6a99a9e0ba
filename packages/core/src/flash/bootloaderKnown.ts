import { type FlashRoute, needsBootloader, type RouteKind } from '../board/route';
import type { Facts } from '../machine/facts';
import type { Machine } from '../machine/machine';
import type { BootloaderKnown } from './chooseRoute';
import type { CardOutcome } from './cardOutcome';
import { by } from './routeWords';

/** A flash as it is recorded, newest first in a list. */
export interface FlashRecord {
  route: string;
  does: 'try' | 'write' | 'bootloader';
  /** Id and revision of the board; missing in records of before. */
  board?: string | undefined;
  /** Where the image begins, where that is the first byte of the flash. */
  fromStart?: boolean | undefined;
  outcome: CardOutcome;
}

/** How a board is named in a record of a flash; another copy of it is another board. */
export const boardInRecord = ({ board: { id, revision, copy } }: Pick<Machine, 'board'>): string =>
  `${id} ${revision}${copy === undefined ? '' : ` ${copy}`}`;

/**
 * Whether a board has a bootloader, as far as anybody can know: from the newest flash that tells, else from what was read out
 * of it. No answer tells nothing: it has other causes.
 */
export function bootloaderKnown(
  { board, machine }: Pick<Facts, 'board' | 'machine'>,
  flashes: readonly FlashRecord[],
  readOut: { verdict: 'fits' | 'doubtful' | 'empty' } | undefined,
): BootloaderKnown {
  const here = flashes.filter((flash) => flash.board === boardInRecord(machine));
  for (const flash of here) {
    const told = tells(flash, board.routes);
    if (told) return told;
  }
  if (readOut)
    return readOut.verdict === 'empty'
      ? { is: 'absent', because: 'what was read out of it is erased' }
      : { is: 'there', because: 'it was read out of this board' };
  return { is: 'unknown', because: 'nothing was tried on this board yet' };
} // prettier-ignore

function tells({ route: kind, does, fromStart, outcome }: FlashRecord, routes: readonly FlashRoute[]): BootloaderKnown | undefined {
  const route = routes.find((entry) => entry.kind === kind);
  if (!route) return undefined;
  const wires = !needsBootloader(route);
  if (does === 'bootloader')
    return outcome.taken
      ? { is: 'there', because: `it was installed ${by(route)} and reads back the same` }
      : partly(outcome) ? { is: 'absent', because: 'installing one broke off in the middle' } : undefined;
  const begun = outcome.taken || partly(outcome);
  if (fromStart && begun) return { is: 'absent', because: 'an image was written over its place' };
  return begun && !wires ? { is: 'there', because: `it answered ${by({ kind: kind as RouteKind })}` } : undefined; // found among the routes
} // prettier-ignore

const partly = (outcome: CardOutcome): boolean => !outcome.taken && outcome.partly === true;
