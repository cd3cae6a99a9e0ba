import { canHeat } from '../bringup/heatLines';
import { type Facts, partFor } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';

/** What a self-tune finds P, I and D of. */
export const TUNED = ['hotend', SECOND_HOTEND, 'bed'] as const;
export type Tuned = (typeof TUNED)[number];

/** Those that this machine has and its image heats each by itself. */
export const tunedOn = (facts: Facts): Tuned[] =>
  TUNED.filter((body) => partFor(facts, 'heater', body) && canHeat(facts, body));
