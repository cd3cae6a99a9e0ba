import type { PartOf } from '../parts/part';
import { type Facts, partFor, type PlacedPart } from './facts';
import { SECOND_HOTEND } from './machine';
import { secondMotor } from './secondMotor';

/** What feeds filament: its motor, the hot end it feeds, and what its settings are called. */
export interface Extruder {
  /** What steps, direction and current of it end with. */
  key: 'e' | 'second-e';
  /** What the firmware's replies call it. */
  axis: 'e' | 'e2';
  name: 'Extruder' | 'Second extruder';
  motor: PlacedPart<PartOf<'motor'>>;
  /** The line that makes it the tool in use; undefined where there is no other. */
  tool: 'T0' | 'T1' | undefined;
  hotend: 'hotend' | typeof SECOND_HOTEND;
}

/** The extruders of a machine; a second one counts where its motor sits on a driver of its own. */
export function extrudersOf(facts: Facts): Extruder[] {
  const [first, second] = [partFor(facts, 'motor', 'e'), secondMotor(facts, 'e')];
  return [
    ...(first ? [{ key: 'e', axis: 'e', name: 'Extruder', motor: first, tool: second && 'T0', hotend: 'hotend' } as const] : []),
    ...(second ? [{ key: 'second-e', axis: 'e2', name: 'Second extruder', motor: second, tool: 'T1', hotend: SECOND_HOTEND } as const] : []),
  ]; // prettier-ignore
}
