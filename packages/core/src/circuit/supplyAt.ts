import type { Facts } from '../machine/facts';
import type { Landing } from '../machine/landing';
import { voltsAtLead } from './loads';

/** Volts a part's supply lead gets at a landing, converters and jumpers counted; undefined where it has none. */
export function supplyAt(
  { board, machine }: Pick<Facts, 'board' | 'machine'>,
  landing: Landing | undefined,
): number | undefined {
  return voltsAtLead(board, landing, machine.supply.volts_v, machine.jumpers ?? {});
}
