import type { PartOf } from '../parts/part';
import type { AxisDrive } from './axisDrive';
import type { Facts, PlacedPart } from './facts';
import type { Machine, MotorAxis } from './machine';
import { secondMotor } from './secondMotor';

/** What the motor of a second extruder turns: its own drive where the machine file has one, else the same as the first's. */
export const secondDrive = ({ axes }: Pick<Machine, 'axes'>): AxisDrive => axes.e2 ?? axes.e;

/** What a motor of an axis turns. */
export function driveOf(facts: Facts, axis: MotorAxis, motor?: PlacedPart<PartOf<'motor'>>): AxisDrive {
  const isSecond = axis === 'e' && motor !== undefined && motor.id === secondMotor(facts, 'e')?.id;
  return isSecond ? secondDrive(facts.machine) : facts.machine.axes[axis];
}
