import { type Facts, partFor } from '@jolly/core/machine/facts';
import { secondMotor } from '@jolly/core/machine/secondMotor';
import { drivenWith } from '@jolly/core/settings/driverRules';
import type { Frame } from './frame';
import type { PlantView } from './truth';

/** What a motor warms above the room at its rated current, °C. */
const MOTOR_RISE_C = 58;
const MOTOR_ROOM_C = 24;

/** How warm each motor gets with the current its driver gives it; motors on one driver share that. */
export function motorsWarm(facts: Facts, frame: Frame): PlantView['motorsC'] {
  return Object.fromEntries(
    [...frame.drivers()].map(([axis, driver]) => {
      const motor = axis === 'e2' ? secondMotor(facts, 'e') : partFor(facts, 'motor', axis);
      const all = drivenWith(facts, motor)?.motors ?? [];
      const rated = all.reduce((sum, { type }) => sum + type.rated_a, 0) || driver.amps();
      return [axis, MOTOR_ROOM_C + MOTOR_RISE_C * (driver.amps() / rated) ** 2];
    }),
  );
}
