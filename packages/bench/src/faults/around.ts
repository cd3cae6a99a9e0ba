import type { Facts } from '@jolly/core/machine/facts';
import type { BoardState } from '../board/boardState';
import type { Card } from '../board/card';
import type { Surroundings } from './fault';
import { faultNamed } from './faults';

/** What lies around a board when it is flashed or talked to, with these faults laid. */
export function around(
  facts: Facts,
  laid: readonly string[],
  { state, card }: { state: BoardState; card: Card },
): Surroundings {
  const at: Surroundings = {
    card,
    state,
    hostBaud: undefined,
    portHeld: false,
    toolFails: false,
    wiresExchanged: false,
  };
  for (const name of laid) faultNamed(name)?.around?.(at, facts);
  return at;
}
