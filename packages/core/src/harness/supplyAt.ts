import { contactNet, supplyVolts } from '../board/board';
import type { Facts } from '../machine/facts';
import type { Landing } from '../machine/machine';

/** Volts at the contact a part's supply lead sits on; undefined where it has none. */
export function supplyAt(
  { board, machine }: Pick<Facts, 'board' | 'machine'>,
  landing: Landing,
): number | undefined {
  if (!('leads' in landing) || landing.leads['supply'] === undefined) return undefined;
  const net = contactNet(board, landing.leads['supply']);
  return net?.kind === 'supply' ? supplyVolts(net.source, machine.supply.volts_v) : undefined;
}
