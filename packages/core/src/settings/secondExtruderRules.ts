import { driveOf } from '../machine/driveOf';
import { type Facts, partFor } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';
import { secondMotor } from '../machine/secondMotor';
import { type Derived, known, type Rule } from './derivation';
import { accelerationOf, direction, steps, topSpeedOf } from './driveRules';
import { currentOf } from './driverRules';

/** While the machine file says nothing of it. */
const LIKE_THE_FIRST = 'its drive is taken to be like the first extruder’s';

/** A second extruder, whose motor sits on a driver of its own. What was set for the first holds for it until it has its own. */
export const secondExtruderRules: Rule[] = [
  ['steps.second-e', (facts) => ofSecond(facts, (motor) => steps(facts, 'e', motor))],
  ['direction.second-e', (facts) => ofSecond(facts, (motor) => direction(facts, 'e', motor))],
  ['speed.second-e', (facts) => ofSecond(facts, (motor) => asSet(facts, 'speed.e') ?? topSpeedOf(driveOf(facts, 'e', motor)))],
  ['accel.second-e', (facts) => ofSecond(facts, (motor) => asSet(facts, 'accel.e') ?? accelerationOf(driveOf(facts, 'e', motor)))],
  ['corner.jolt.second-e', (facts) => ofSecond(facts, () => asSet(facts, 'corner.jolt.e'))],
  ['lead.time.second-e', (facts) => ofSecond(facts, () => asSet(facts, 'lead.time'))],
  ['current.second-e', (facts) => currentOf(facts, secondMotor(facts, 'e'))],
  ['power.second-hotend', (facts) => (partFor(facts, 'heater', SECOND_HOTEND) ? setForFirstHotend(facts, 'power.hotend') : undefined)],
]; // prettier-ignore

/** A value of the machine's own for the first hot end. */
export const setForFirstHotend = ({ machine }: Facts, key: string): Derived | undefined =>
  known(machine.settings[key]?.value, 'as it was set for the first hot end; it may have its own');

/** A value of the machine's own for the first extruder, while the second is taken to be like it. */
const asSet = ({ machine: { axes, settings } }: Facts, key: string): Derived | undefined =>
  axes.e2 ? undefined : known(settings[key]?.value, 'as it was set for the first');

type Motor = NonNullable<ReturnType<typeof secondMotor>>;
function ofSecond(facts: Facts, follows: (motor: Motor) => Derived | undefined): Derived | undefined {
  const motor = secondMotor(facts, 'e');
  const derived = motor && follows(motor);
  if (!derived || facts.machine.axes.e2) return derived;
  return { value: derived.value, because: `${derived.because}; ${LIKE_THE_FIRST}` };
}
