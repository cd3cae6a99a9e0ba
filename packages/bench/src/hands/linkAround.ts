import type { Facts } from '@jolly/core/machine/facts';
import { blankBoard } from '../board/board';
import { faultNamed } from '../faults/faults';
import type { Surroundings } from '../faults/fault';

/** How a host reaches the board with these faults laid: the speed it talks at, and whether another program has the port. */
export function linkAround(
  facts: Facts,
  laid: readonly string[],
  baud: number,
): Pick<Surroundings, 'portHeld'> & { hostBaud: number } {
  const around: Surroundings = {
    card: { format: 'FAT32', sizeGb: 1, files: [] },
    state: blankBoard(facts.chip),
    hostBaud: undefined,
    portHeld: false,
    toolFails: false,
  };
  for (const name of laid) faultNamed(name)?.around?.(around, facts);
  return { portHeld: around.portHeld, hostBaud: around.hostBaud ?? baud };
}
