import type { Facts } from '@jolly/core/machine/facts';
import { blankBoard } from '../board/boardState';
import { around } from '../faults/around';
import type { Surroundings } from '../faults/fault';

/** How a host reaches the board with these faults laid: the speed it talks at, and whether another program has the port. */
export function linkAround(
  facts: Facts,
  laid: readonly string[],
  baud: number,
): Pick<Surroundings, 'portHeld'> & { hostBaud: number } {
  const card = { format: 'FAT32' as const, sizeGb: 1, files: [] };
  const { portHeld, hostBaud } = around(facts, laid, { state: blankBoard(facts.chip), card });
  return { portHeld, hostBaud: hostBaud ?? baud };
}
