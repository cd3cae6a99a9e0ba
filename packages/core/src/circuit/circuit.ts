import { supplyVolts } from '../board/board';
import type { Facts, PlacedPart } from '../machine/facts';
import { adapterOf } from './loads';

/** The pull-up the board itself puts on a pin, if any. */
export function boardPullUp(
  facts: Facts,
  pin: number | undefined,
): { pull_up_ohms: number; to_v: number } | undefined {
  return facts.board.inputs.find((input) => input.pin === pin);
}

/** A resistor between a signal and a supply. */
export interface Lifting {
  ohms: number;
  volts: number;
  at: 'board' | 'lead';
}

/** What lifts the signal of a part at a pin: the resistor of the board, and one that sits in its lead. */
export function liftingResistors(facts: Facts, part: PlacedPart, pin: number | undefined): Lifting[] {
  const onBoard = boardPullUp(facts, pin);
  const own = part.landing && 'leads' in part.landing ? adapterOf(part.landing, 'pull-up', 'signal') : undefined;
  return [
    ...(onBoard ? [{ ohms: onBoard.pull_up_ohms, volts: onBoard.to_v, at: 'board' as const }] : []),
    ...(own ? [{ ohms: own.ohms, volts: supplyVolts(own.to, facts.machine.supply.volts_v), at: 'lead' as const }] : []),
  ];
} // prettier-ignore
