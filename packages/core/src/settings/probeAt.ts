import { type Facts, partsOf } from '../machine/facts';
import { mountOffset } from './mountOffset';

/** Whether the nozzle itself is what touches the plate. */
export const touchesWithNozzle = (facts: Facts): boolean =>
  partsOf(facts, 'probe')[0]?.type.sense === 'nozzle';

/**
 * Where the probe meets the plate, seen from the nozzle, in mm, by the facts; undefined where nobody said how it is
 * mounted. A nozzle that is its own probe meets it where it is, whatever a mount says.
 */
export function probeAt(facts: Facts): { x: number; y: number } | undefined {
  if (touchesWithNozzle(facts)) return { x: 0, y: 0 };
  const { probe_mount: mount } = facts.machine;
  return mount && mountOffset(mount);
}
