import type { Facts, PlacedPart } from '@jolly/core/machine/facts';
import { boardPullUp } from '@jolly/core/circuit/circuit';
import { contactNet } from '@jolly/core/board/contacts';
import { pinOf } from '@jolly/core/circuit/pinTable';
import type { Pins } from './pins';

/** What a part does to its signal lead at this moment. */
export type Drive = 'pulls low' | 'open' | 'low' | 'high';

/**
 * The level a pin reads, from what the part does and what pulls: the circuit is followed through the harness, so
 * that a missing pull-up floats and a lead on the wrong contact never closes.
 */
export function inputLevel(
  facts: Facts,
  part: PlacedPart,
  drive: Drive,
  pins: Pins,
  noise: () => number,
): boolean {
  const pin = pinOf(facts, part, 'signal');
  if (pin === undefined) return false;
  if (drive === 'low' || drive === 'high') return drive === 'high';
  if (drive === 'pulls low' && grounded(facts, part)) return false;
  if (boardPullUp(facts, pin) || pins.pulledUp(pin)) return true;
  return noise() < 0.5;
}

function grounded(facts: Facts, part: PlacedPart): boolean {
  if (!part.landing || 'socket' in part.landing) return false;
  const contact = part.landing.leads['ground'];
  return contact !== undefined && contactNet(facts.board, contact)?.kind === 'gnd';
}
