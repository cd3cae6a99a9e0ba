import type { PartOf } from '../parts/part';
import { type Facts, partsOf, type PlacedPart, socketOf } from './facts';
import type { MotorAxis } from './machine';

/** The second motor of an axis, where it sits on a driver of its own. */
export function secondMotor(facts: Facts, axis: MotorAxis): PlacedPart<PartOf<'motor'>> | undefined {
  const [first, ...others] = partsOf(facts, 'motor').filter(({ role }) => role === axis);
  return others.find((motor) => socketOf(motor) !== undefined && socketOf(motor) !== socketOf(first));
}
