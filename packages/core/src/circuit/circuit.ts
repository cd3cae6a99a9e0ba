import type { Facts } from '../machine/facts';

/** The pull-up the board itself puts on a pin, if any. */
export function boardPullUp(
  facts: Facts,
  pin: number | undefined,
): { pull_up_ohms: number; to_v: number } | undefined {
  return facts.board.inputs.find((input) => input.pin === pin);
}
