import type { Facts } from '@jolly/core/machine/facts';
import { secondMotor } from '@jolly/core/machine/secondMotor';

/** A gantry with a motor on each side hangs askew after it was let go: by so much at most. */
const SAGS_MM = 0.8;

/** How much higher the second Z motor of a gantry stands before anything moved, mm; 0 where there is none. */
export function sagOf(facts: Facts, random: () => number): number {
  return secondMotor(facts, 'z') ? (random() - 0.5) * 2 * SAGS_MM : 0;
}
