import type { PartOf } from '@jolly/core/parts/part';
import { AXES, type MotorAxis, MOTOR_AXES } from '@jolly/core/machine/machine';
import { driveTrain } from '@jolly/core/settings/derivations';
import { driverOf, type Facts, partsOf, type PlacedPart, socketOf } from '@jolly/core/machine/facts';
import { stepsPerMm } from '@jolly/core/motion/stepsPerMm';
import type { Pins } from './pins';

/** How far beyond its switch an axis can be pushed before it meets the frame, in mm. */
const OVERRUN_MM = 3;

/** Where the machine's moving parts really are, whatever the firmware believes. */
export interface Frame {
  /** A step pulse arrived at this pin. */
  step(pin: number): void;
  position(axis: MotorAxis): number;
  /** Steps that could not be made because an axis stood against the frame, by axis. */
  blocked(): Record<'x' | 'y' | 'z', number>;
}

interface Motor {
  dirPin: number;
  enablePin: number;
  /** Level of the direction pin that turns it towards plus. */
  plusHigh: boolean;
  mmPerStep: number;
  axis: MotorAxis;
}

/** Where an axis meets the frame: a little beyond its travel, and no further than its measured room lets it. */
function stopsOf({ machine }: Facts, axis: 'x' | 'y' | 'z'): [number, number] {
  const [from, to] = machine.frame.travel_mm[axis];
  const room = machine.frame.room_mm?.[axis];
  if (room === undefined) return [from - OVERRUN_MM, to + OVERRUN_MM];
  const low = from - Math.max(0, Math.min(OVERRUN_MM, (room - (to - from)) / 2));
  return [low, Math.min(to + OVERRUN_MM, low + room)];
}

/** Builds the moving parts from the facts of the machine; `start` is where each axis stands at power-on. */
export function frameOf(facts: Facts, pins: Pins, start: Record<'x' | 'y' | 'z', number>): Frame {
  const motors = new Map<number, Motor>();
  for (const axis of MOTOR_AXES) {
    const part = partsOf(facts, 'motor').find((entry) => entry.role === axis);
    const socket = facts.board.sockets.find((entry) => entry.id === socketOf(part));
    const train = driveTrain(facts, axis);
    if (!part || !socket || !train) continue;
    motors.set(socket.step, {
      dirPin: socket.dir,
      enablePin: socket.enable,
      plusHigh: plusHigh(facts, part, axis),
      mmPerStep: 1 / stepsPerMm(train),
      axis,
    });
  }
  const crossBelt = facts.machine.frame.kinematics === 'cross-belt';
  const at: Record<MotorAxis, number> = { ...start, e: 0 };
  const blocked = { x: 0, y: 0, z: 0 };
  // One entry for each axis, by the line itself.
  const ends = Object.fromEntries(AXES.map((axis) => [axis, stopsOf(facts, axis)])) as Record<
    'x' | 'y' | 'z',
    [number, number]
  >;

  function move(axis: MotorAxis, way: number): void {
    if (axis === 'e') {
      at.e += way;
      return;
    }
    const next = at[axis] + way;
    if (next < ends[axis][0] || next > ends[axis][1]) blocked[axis] += 1;
    else at[axis] = next;
  }

  return {
    step(pin) {
      const motor = motors.get(pin);
      if (!motor || pins.level(motor.enablePin)) return;
      const way = pins.level(motor.dirPin) === motor.plusHigh ? motor.mmPerStep : -motor.mmPerStep;
      if (!crossBelt || (motor.axis !== 'x' && motor.axis !== 'y')) return move(motor.axis, way);
      // x = (A + B) / 2, y = (A − B) / 2
      move('x', way / 2);
      move('y', motor.axis === 'x' ? way / 2 : -way / 2);
    },
    position: (axis) => at[axis],
    blocked: () => ({ ...blocked }),
  };
}

/** A high direction level turns a shaft clockwise, unless the driver or a turned plug says otherwise. */
function plusHigh(facts: Facts, motor: PlacedPart<PartOf<'motor'>>, axis: MotorAxis): boolean {
  const turned = motor.landing !== undefined && 'turned' in motor.landing && motor.landing.turned === true;
  const flips = driverOf(facts, motor)?.type.flips === true;
  const highIsClockwise = flips === turned;
  return highIsClockwise === (facts.machine.axes[axis].plus_is === 'clockwise');
}
