import type { Facts } from '../machine/facts';
import { probeAt } from './probeAt';
import { probeReach, type Reach } from '../probe/probeReach';

/** Safety distance kept from the edge of the plate, in mm. */
export const EDGE_MARGIN_MM = 10;

/** Where the probe reaches by the facts of the machine, in probe coordinates; undefined where nobody said where it is. */
export function machineReach(facts: Facts): Reach | undefined {
  const offset = probeAt(facts);
  if (!offset) return undefined;
  const { travel_mm: travel, bed_mm: bed } = facts.machine.frame;
  return (
    probeReach.ofChecked({
      travel: { x: travel.x, y: travel.y },
      bed,
      offset,
      marginMm: EDGE_MARGIN_MM,
    }) ?? undefined
  );
}
