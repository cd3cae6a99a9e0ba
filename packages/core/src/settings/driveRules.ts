import { driverOf, type Facts, partFor, type PlacedPart } from '../machine/facts';
import type { AxisDrive } from '../machine/axisDrive';
import { driveOf } from '../machine/driveOf';
import type { MotorAxis } from '../machine/machine';
import type { PartOf } from '../parts/part';
import { type Drive, stepsPerMm } from '../motion/stepsPerMm';
import { type Derived, known, type Rule } from './derivation';

type Motor = PlacedPart<PartOf<'motor'>>;
const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** Steps, direction, speed and acceleration of an axis, from its motor, its driver and what it turns. */
export function driveRules(axis: MotorAxis): Rule[] {
  return [
    [`steps.${axis}`, (facts) => steps(facts, axis)],
    [`direction.${axis}`, (facts) => direction(facts, axis)],
    [`speed.${axis}`, (facts) => topSpeedOf(driveOf(facts, axis))],
    [`accel.${axis}`, (facts) => accelerationOf(driveOf(facts, axis))],
  ];
}

/** Top speed, and acceleration, that a drive is known to go well with. */
export const topSpeedOf = ({ max_speed_mm_s: speed }: AxisDrive) =>
  known(speed, 'fastest this axis is known to move well');
export const accelerationOf = ({ max_accel_mm_s2: accel }: AxisDrive) =>
  known(accel, 'highest acceleration this axis is known to hold');

/**
 * The drive train of an axis as `stepsPerMm` takes it, with its first motor or another; undefined while motor or microsteps
 * are unknown.
 */
export function driveTrain(
  facts: Facts,
  axis: MotorAxis,
  motor: Motor | undefined = partFor(facts, 'motor', axis),
): Drive | undefined {
  const microsteps = driverOf(facts, motor)?.microsteps;
  if (!motor || microsteps === undefined) return undefined;
  const drive = driveOf(facts, axis, motor);
  const turns = { fullSteps: motor.type.full_steps, microsteps, gearRatio: drive.gear_ratio ?? 1 };
  if (drive.kind === 'belt') return { kind: 'belt', ...turns, pitchMm: drive.pitch_mm, teeth: drive.teeth };
  return drive.kind === 'screw'
    ? { kind: 'screw', ...turns, leadMm: drive.lead_mm }
    : { kind: 'roller', ...turns, diameterMm: drive.diameter_mm };
}

/** Steps per millimetre of an axis with its first motor, or another that turns the same. */
export function steps(facts: Facts, axis: MotorAxis, motor?: Motor): Derived | undefined {
  const train = driveTrain(facts, axis, motor);
  if (!train) return undefined;
  const gear = train.gearRatio === 1 ? '' : ` × gear ${train.gearRatio}`;
  return {
    value: round(stepsPerMm.ofChecked(train), 4),
    because: `${train.fullSteps} steps × ${train.microsteps} microsteps${gear} over ${travelInWords(driveOf(facts, axis, motor))}`,
  };
}

function travelInWords(drive: AxisDrive): string {
  if (drive.kind === 'belt') return `${drive.teeth} teeth × ${drive.pitch_mm} mm`;
  return drive.kind === 'screw' ? `a lead of ${drive.lead_mm} mm` : `a roller of ⌀ ${drive.diameter_mm} mm`;
}

/** Whether a motor is to turn the other way round, by how it is mounted, driven and plugged. */
export function direction(
  facts: Facts,
  axis: MotorAxis,
  motor: Motor | undefined = partFor(facts, 'motor', axis),
): Derived | undefined {
  const driver = driverOf(facts, motor);
  if (!motor?.landing || !driver) return undefined;
  const turned = 'turned' in motor.landing && motor.landing.turned === true;
  const plus = driveOf(facts, axis, motor).plus_is;
  if (!plus) return undefined;
  const against = plus === 'anticlockwise';
  const reasons = [
    `plus is ${plus} at the motor`,
    ...(driver.type.flips ? [`${driver.type.name} turns motors the other way`] : []),
    ...(turned ? ['its plug is turned'] : []),
  ];
  return {
    value: [against, driver.type.flips, turned].filter(Boolean).length % 2 === 1,
    because: reasons.join('; '),
  };
}
