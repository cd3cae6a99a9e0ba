import { driveOf } from '../machine/driveOf';
import { type Facts } from '../machine/facts';
import { secondMotor } from '../machine/secondMotor';
import type { Derived, Rule } from './derivation';
import { accelerationOf, direction, steps, topSpeedOf } from './driveRules';
import { currentOf } from './driverRules';

/** While the machine file says nothing of it. */
const LIKE_THE_FIRST = 'its drive is taken to be like the first extruder’s';

/** A second extruder, whose motor sits on a driver of its own. */
export const secondExtruderRules: Rule[] = [
  ['steps.second-e', (facts) => ofSecond(facts, (motor) => steps(facts, 'e', motor))],
  ['direction.second-e', (facts) => ofSecond(facts, (motor) => direction(facts, 'e', motor))],
  ['speed.second-e', (facts) => ofSecond(facts, (motor) => topSpeedOf(driveOf(facts, 'e', motor)))],
  ['accel.second-e', (facts) => ofSecond(facts, (motor) => accelerationOf(driveOf(facts, 'e', motor)))],
  ['current.second-e', (facts) => currentOf(facts, secondMotor(facts, 'e'))],
];

type Motor = NonNullable<ReturnType<typeof secondMotor>>;
function ofSecond(facts: Facts, follows: (motor: Motor) => Derived | undefined): Derived | undefined {
  const motor = secondMotor(facts, 'e');
  const derived = motor && follows(motor);
  if (!derived || facts.machine.axes.e2) return derived;
  return { value: derived.value, because: `${derived.because}; ${LIKE_THE_FIRST}` };
}
