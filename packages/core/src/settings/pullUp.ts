import { boardPullUp } from '../circuit/circuit';
import { pinOf } from '../circuit/pinTable';
import type { Facts, PlacedPart } from '../machine/facts';
import type { Derived } from './derivation';

/** Whether the chip's own pull-up must be on for a part's signal, by the circuit of its header. */
export function pullUp(facts: Facts, part: PlacedPart | undefined): Derived | undefined {
  if (!part) return undefined;
  if ('output' in part.type && part.type.output === 'driven')
    return { value: false, because: `${part.type.name} drives its output both ways; nothing needs to pull` };
  const pin = pinOf(facts, part, 'signal');
  const own = boardPullUp(facts, pin);
  return own
    ? {
        value: false,
        because: `${facts.board.name} has ${own.pull_up_ohms} Ω to ${own.to_v} V on that input`,
      }
    : {
        value: true,
        because: `${facts.board.name} has no resistor on that input, so the chip's own must be on`,
      };
}
