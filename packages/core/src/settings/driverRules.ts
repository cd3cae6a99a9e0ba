import { howTold } from '../parts/howTold';
import { motorCurrent } from '../electricity/driverReference';
import { driverOf, type Facts, partFor, partsOf, type PlacedPart, socketOf } from '../machine/facts';
import { MOTOR_AXES, type MotorAxis } from '../machine/machine';
import { secondMotor } from '../machine/secondMotor';
import type { PartOf } from '../parts/part';
import { deviationFromJolt } from '../motion/cornering';
import type { Derived, Rule } from './derivation';

type Driver = PlacedPart<PartOf<'driver'>>;
type Motor = PlacedPart<PartOf<'motor'>>;
const round = (value: number, digits: number) => Number(value.toFixed(digits));
const HOW_COOLED = { bare: 'without a heat sink', sink: 'with its heat sink', blown: 'blown at by a fan' };

/** What a driver module stands as it is cooled, A rms; with its own heat sink where nothing else is said. */
export function moduleLimit({ type, cooling = 'sink' }: Driver): { amps: number; cooled: string } {
  const amps = { bare: type.max_bare_a, sink: type.max_a, blown: type.max_blown_a }[cooling] ?? type.max_a;
  return { amps, cooled: HOW_COOLED[cooling] };
}

/** The driver of an axis and every motor on it. */
export function drivenBy(facts: Facts, axis: MotorAxis): { driver: Driver; motors: Motor[] } | undefined {
  return drivenWith(facts, partFor(facts, 'motor', axis));
}

/** The driver of a motor and every motor on it: in parallel they share what it gives. */
export function drivenWith(
  facts: Facts,
  motor: Motor | undefined,
): { driver: Driver; motors: Motor[] } | undefined {
  const driver = driverOf(facts, motor);
  if (!driver) return undefined;
  return {
    driver,
    motors: partsOf(facts, 'motor').filter((one) => socketOf(one) === socketOf(driver)),
  };
}

/** What a driver should give to all its motors together, A rms, and why: 70 % of their rating, as far as it stands. */
export function runningCurrent(driver: Driver, motors: readonly Motor[]): Current {
  const wanted = motors.reduce(
    (sum, { type }) => sum + motorCurrent.ofChecked({ ratedRms: type.rated_a }).amps,
    0,
  );
  const limit = moduleLimit(driver);
  const how =
    motors.length > 1
      ? `70 % of what ${motors.length} motors in parallel are rated for`
      : `70 % of the ${motors[0]?.type.rated_a ?? 0} A the motor is rated for`;
  return wanted <= limit.amps
    ? { amps: wanted, because: how }
    : {
        amps: limit.amps,
        because: `${how} would be ${round(wanted, 2)} A; ${driver.type.name} stands ${limit.amps} A ${limit.cooled}`,
      };
}
interface Current {
  amps: number;
  because: string;
}

/** What the driver of a motor should give, for all the motors on it. */
export function currentOf(facts: Facts, motor: Motor | undefined): Derived | undefined {
  const driven = drivenWith(facts, motor);
  if (!driven || driven.motors.length === 0) return undefined;
  const { amps, because } = runningCurrent(driven.driver, driven.motors);
  return { value: round(amps, 2), because };
}

const LINE = { 'stand-alone': 'pot', serial: 'serial', select: 'select' } as const;

function line(facts: Facts): Derived | undefined {
  const drivers = partsOf(facts, 'driver');
  // One module on a line is enough: the others are told at their pots.
  const told = drivers.find(({ type }) => type.mode !== 'stand-alone') ?? drivers[0];
  return told && { value: LINE[told.type.mode], because: howTold(told.type) };
}

function slowestPulse(facts: Facts): Derived | undefined {
  const slowest = partsOf(facts, 'driver').reduce<Driver | undefined>(
    (slow, driver) => (!slow || driver.type.min_pulse_us > slow.type.min_pulse_us ? driver : slow),
    undefined,
  );
  return (
    slowest && { value: slowest.type.min_pulse_us, because: `${slowest.type.name} needs pulses this long` }
  );
}

/** Whether an axis has two motors on a driver each. */
function apart(facts: Facts, axis: 'z' | 'e', which: string): Derived {
  return secondMotor(facts, axis)
    ? { value: true, because: `two ${which} motors sit on a driver each` }
    : { value: false, because: `no second ${which} motor sits on a driver of its own` };
}

/** Jolt from which a deviation is worked out where nobody measured one, in mm/s. */
const USUAL_JOLT_MM_S = 8;

/** Settings that follow from motors, drivers and chip. */
export const driverRules: Rule[] = [
  ...MOTOR_AXES.map((axis): Rule => [
    `current.${axis}`,
    (facts) => currentOf(facts, partFor(facts, 'motor', axis)),
  ]),
  ['driver.line', line],
  ['pulse.width', slowestPulse],
  ['second-z.on', (facts) => apart(facts, 'z', 'Z')],
  ['extruder.second', (facts) => apart(facts, 'e', 'extruder')],
  [
    'corner.by',
    ({ chip }) =>
      chip.word_bits === 8
        ? { value: 'jolt', because: `${chip.name} computes 8 bits at a time; a deviation is too much for it` }
        : {
            value: 'deviation',
            because: `${chip.name} has the room to follow a deviation; corners ring less`,
          },
  ],
  [
    'corner.deviation',
    ({ machine }) => {
      const accelMmS2 = machine.axes.x.max_accel_mm_s2;
      if (accelMmS2 === undefined) return undefined;
      return {
        value: round(deviationFromJolt.ofChecked({ joltMmS: USUAL_JOLT_MM_S, accelMmS2 }), 3),
        because: `corners as a jolt of ${USUAL_JOLT_MM_S} mm/s does at ${accelMmS2} mm/s²`,
      };
    },
  ],
];
