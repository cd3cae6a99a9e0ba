import { type Facts, partFor } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';
import { secondMotor } from '../machine/secondMotor';
import type { Derived, Rule } from './derivation';
import { direction, steps } from './driveRules';
import { currentOf } from './driverRules';

/** What else is said of the first extruder holds for both: there is one drive in a machine file. */
const LIKE_THE_FIRST = 'its drive is taken to be like the first extruder’s';

/** A second extruder, whose motor sits on a driver of its own. */
export const secondExtruderRules: Rule[] = [
  ['steps.second-e', (facts) => ofSecond(facts, (motor) => steps(facts, 'e', motor))],
  ['direction.second-e', (facts) => ofSecond(facts, (motor) => direction(facts, 'e', motor))],
  ['current.second-e', (facts) => currentOf(facts, secondMotor(facts, 'e'))],
  [
    'sensor.second-hotend',
    (facts) => {
      const part = partFor(facts, 'thermistor', SECOND_HOTEND);
      return part && { value: part.type.id, because: `${part.id} is a ${part.type.name}` };
    },
  ],
];

type Motor = NonNullable<ReturnType<typeof secondMotor>>;
function ofSecond(facts: Facts, follows: (motor: Motor) => Derived | undefined): Derived | undefined {
  const motor = secondMotor(facts, 'e');
  const derived = motor && follows(motor);
  return derived && { value: derived.value, because: `${derived.because}; ${LIKE_THE_FIRST}` };
}
