import type { Facts } from '../machine/facts';
import { mountOffset } from './mountOffset';
import { probeReach, type Reach } from '../probe/probeReach';

/** Safety distance kept from the edge of the plate, in mm. */
export const EDGE_MARGIN_MM = 10;

/** Where the probe reaches by the facts of the machine, in probe coordinates; undefined without a mounted probe. */
export function machineReach({ machine }: Facts): Reach | undefined {
  if (!machine.probe_mount) return undefined;
  const { travel_mm: travel, bed_mm: bed } = machine.frame;
  return (
    probeReach.ofChecked({
      travel: { x: travel.x, y: travel.y },
      bed,
      offset: mountOffset(machine.probe_mount),
      marginMm: EDGE_MARGIN_MM,
    }) ?? undefined
  );
}
