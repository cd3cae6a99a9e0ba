import { type Facts, partFor } from '../machine/facts';
import { HEATED, SECOND_HOTEND } from '../machine/machine';
import { secondMotor } from '../machine/secondMotor';
import { ask, type Procedure } from './procedure';

/** How heat is asked for; a body that is none of these cannot be. */
const HEATS: Readonly<Record<string, (c: number) => string>> = {
  // Of the tool in use.
  hotend: (c) => `M104 S${c}`,
  [SECOND_HOTEND]: (c) => `M104 T1 S${c}`,
  bed: (c) => `M140 S${c}`,
  chamber: (c) => `M141 S${c}`,
};
export const canHeat = (facts: Facts, body: string): boolean =>
  Object.hasOwn(HEATS, body) && (body !== SECOND_HOTEND || secondMotor(facts, 'e') !== undefined);

/** The line that asks a body for so many °C. @throws {Error} for one that cannot be heated: another must not be instead */
export function heatLine(body: string, c: number): string {
  const says = HEATS[body];
  if (!says) throw new Error(`nothing heats the ${body}`);
  return says(Math.round(c));
}

/** Every heater asked for none, whichever tool is in use. */
export function coldLines(facts: Facts): string[] {
  const hotends = secondMotor(facts, 'e') ? ['M104 T0 S0', 'M104 T1 S0'] : ['M104 S0'];
  return [...HEATED, 'chamber']
    .filter((body) => partFor(facts, 'heater', body))
    .flatMap((body) => (body === 'hotend' ? hotends : [heatLine(body, 0)]));
}

/** Lets the first of two extruders be the tool in use, as after a start. */
export function* firstTool(facts: Facts): Procedure<void> {
  if (secondMotor(facts, 'e')) yield* ask('T0');
}
