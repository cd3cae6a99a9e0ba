import { isCardRoute } from '../board/route';
import { type Facts, partsOf } from '../machine/facts';
import type { PartKind } from '../parts/part';
import type { Cause } from './proof';

/** A cause that something of the machine has to be there for. */
export interface PossibleCause extends Cause {
  when?: (facts: Facts) => boolean;
}

/** The causes that are possible on a machine, by finding; where none would be left, all of them. */
export const possibleOn = (
  facts: Facts,
  causes: Readonly<Record<string, readonly PossibleCause[]>>,
): Record<string, readonly Cause[]> =>
  Object.fromEntries(
    Object.entries(causes).map(([finding, all]) => {
      const possible = all.filter(({ when }) => when?.(facts) ?? true);
      return [finding, (possible.length > 0 ? possible : all).map(({ when: _, ...cause }) => cause)];
    }),
  );

/** So many parts of a kind, one where nothing else is said. */
export const has =
  (kind: PartKind, least = 1) =>
  (facts: Facts): boolean =>
    partsOf(facts, kind).length >= least;
/** An image comes onto the board by another way than a card. */
export const byTool = ({ board }: Facts): boolean => board.routes.some((route) => !isCardRoute(route));
