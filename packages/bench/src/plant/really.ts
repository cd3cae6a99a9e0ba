import { type Facts, partsOf } from '@jolly/core/machine/facts';
import { mountOffset } from '@jolly/core/settings/mountOffset';
import { seededRandom } from './random';

/** What nobody can read off a machine file: it has to be measured at the machine. */
export interface Really {
  /** Where the probe meets the plate, against the nozzle, mm; missing without one. */
  probe?: { x: number; y: number; z: number };
  /** mm of filament that really go for each mm the drive wheel was worked out to feed. */
  bite: number;
  /** The same of a second extruder's wheel. */
  secondBite: number;
}

/** Z offset of a probe that nobody has measured yet, in mm. */
const UNMEASURED_PROBE_Z_MM = -1.6;
/** A ruler held beside a mount errs by so much, either way; a depth found with it by so much. */
const RULED_MM = 0.6;
const DEPTH_MM = 0.12;
/** Teeth bite into filament by so much more or less than their wheel says, as a share. */
const BITES = 0.035;

/**
 * How the machine of these facts really is. What was measured and is set does not change it; another mount, probe or
 * drive does.
 */
export function reallyOf(facts: Facts, seed: number): Really {
  const random = seededRandom(seed ^ 0x7ea1);
  const around = (most: number) => {
    const one = (random() - 0.5) * 2;
    // Never next to nothing: what is measured must be worth it.
    return Math.sign(one) * most * (0.35 + 0.65 * Math.abs(one));
  };
  const [x, y, z, bite, second] = [
    around(RULED_MM),
    around(RULED_MM),
    around(DEPTH_MM),
    around(BITES),
    around(BITES),
  ];
  const bites = { bite: 1 + bite, secondBite: 1 + second };
  const { probe_mount: mount } = facts.machine;
  const probe = partsOf(facts, 'probe')[0];
  if (!probe) return bites;
  // The nozzle itself is what meets the plate.
  if (probe.type.sense === 'nozzle') return { ...bites, probe: { x: 0, y: 0, z: 0 } };
  const ruled = mount ? mountOffset(mount) : { x: 0, y: 0 };
  return {
    ...bites,
    probe: { x: ruled.x + x, y: ruled.y + y, z: (mount?.z_mm ?? UNMEASURED_PROBE_Z_MM) + z },
  };
}
