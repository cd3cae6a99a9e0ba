import { AXES, type Axis, type MotorAxis } from '@jolly/core/machine/machine';
import { socketOf } from '@jolly/core/machine/facts';
import type { Pulses } from '../board/runs';
import type { Driver } from './driver';
import type { Module } from './driverLines';
import type { Live } from './live';
import { type StepLine, type Motor, type MotorBuild, motorsOf } from './motor';
import type { Pins } from './pins';

/** How far beyond its switch an axis can be pushed before it meets the frame, in mm. */
const OVERRUN_MM = 3;

/** Where each number of the frame's state stands. */
const AT: Record<MotorAxis, number> = { x: 0, y: 1, z: 2, e: 3 };
const SECOND_Z = 4;
const BLOCKED = 5;
const SECOND_E = 8;
const NUMBERS = 9;

/** Where an axis meets the frame: a little beyond its travel, and no further than its measured room lets it. */
function stopsOf({ facts: { machine } }: Live, axis: Axis): [number, number] {
  const [from, to] = machine.frame.travel_mm[axis];
  const room = machine.frame.room_mm?.[axis];
  if (room === undefined) return [from - OVERRUN_MM, to + OVERRUN_MM];
  const low = from - Math.max(0, Math.min(OVERRUN_MM, (room - (to - from)) / 2));
  return [low, Math.min(to + OVERRUN_MM, low + room)];
}

/**
 * Where the machine's moving parts really are, whatever the firmware believes. Places are a row of numbers, so that they can
 * be kept and taken back many times a second.
 */
export class Frame {
  private readonly motors: readonly Motor[];
  /** By the chip's motor: what hangs on its step pin. */
  private readonly wired: StepLine[][] = [];
  private readonly crossBelt: boolean;
  /** Low end and high end of X, Y and Z. */
  private readonly ends: Float64Array;
  private readonly stepMm: readonly number[];
  private readonly state = new Float64Array(NUMBERS);
  private readonly kept = new Float64Array(NUMBERS);
  /** How far each axis goes in a stretch of time, mm. */
  private readonly ways = new Float64Array(4);

  /**
   * @param amps the current each axis' driver was set to
   * @param lowest how deep the nozzle may go where it stands: plate or frame
   * @param sag how much higher the second Z motor of a gantry stands, mm, before anything moved
   */
  constructor(
    private readonly live: Live,
    pins: Pins,
    start: Record<Axis, number>,
    private readonly amps: (axis: MotorAxis) => number,
    private readonly lowest: (x: number, y: number) => number,
    sag: number,
  ) {
    this.motors = motorsOf(live, pins);
    this.crossBelt = live.facts.machine.frame.kinematics === 'cross-belt';
    this.ends = Float64Array.from(AXES.flatMap((axis) => stopsOf(live, axis)));
    this.stepMm = AXES.map(
      (axis) => this.motors.find(({ build }) => build.axis === axis)?.build.mmPerStep ?? 1,
    );
    this.state.set([start.x, start.y, start.z, 0, start.z + sag]);
    this.refresh();
  }

  /** The chip's motors, by the pins that the firmware told for them. */
  motor(index: number, stepPin: number, dirPin: number, pulseNs: number, setupNs: number): void {
    this.wired[index] = this.motors.flatMap(
      (motor) => motor.stepLine(stepPin, dirPin, pulseNs, setupNs) ?? [],
    );
  }

  /** The first `entries` of the pulses. */
  move(pulses: readonly Pulses[], entries: number, seconds: number, now: number): void {
    const { ways } = this;
    ways[0] = ways[1] = ways[2] = ways[3] = 0;
    for (let entry = 0; entry < entries; entry += 1) {
      const pulse = pulses[entry];
      const hanging = pulse && this.wired[pulse.motor];
      if (hanging) for (const line of hanging) this.turn(line, pulse, seconds, now);
    }
    const a = ways[0] ?? 0;
    const b = ways[1] ?? 0;
    const z = ways[2] ?? 0;
    const e = ways[3] ?? 0;
    // x = (A + B) / 2, y = (A − B) / 2
    this.shift(AT.x, this.crossBelt ? (a + b) / 2 : a);
    this.shift(AT.y, this.crossBelt ? (a - b) / 2 : b);
    this.shift(AT.z, z);
    this.add(AT.e, e);
  }

  private turn(line: StepLine, pulse: Pulses, seconds: number, now: number): void {
    const { at, nth, shares } = line.motor.build;
    const way = line.motor.turn(line, pulse, seconds, now);
    if (nth === 1 && at === AT.e) {
      this.add(SECOND_E, way);
      return;
    }
    this.ways[at] = (this.ways[at] ?? 0) + way / shares;
    if (nth === 1 && at === AT.z) this.add(SECOND_Z, way);
  }

  private shift(axis: number, way: number): void {
    if (way === 0) return;
    const at = this.value(axis);
    const wanted = at + way;
    const end = this.ends[2 * axis] ?? 0;
    const high = this.ends[2 * axis + 1] ?? 0;
    // What lies below counts on the way down only, and asking for it takes time.
    const low =
      axis === AT.z && way < 0 ? Math.max(end, this.lowest(this.value(AT.x), this.value(AT.y))) : end;
    // Whatever already stands beyond an end may come back.
    const free = Math.max(Math.min(wanted, Math.max(high, at)), Math.min(low, at));
    this.state[axis] = free;
    if (free !== wanted) this.block(axis, Math.abs(wanted - free));
  }

  private block(axis: number, mm: number): void {
    this.add(BLOCKED + axis, Math.round(mm / (this.stepMm[axis] ?? 1)));
    const carriage = (at: number) => at === AT.x || at === AT.y;
    for (const motor of this.motors) {
      const { at } = motor.build;
      if (at === axis || (this.crossBelt && carriage(axis) && carriage(at))) motor.stopped();
    }
  }

  private value(index: number): number {
    return this.state[index] ?? 0;
  }

  private add(index: number, more: number): void {
    this.state[index] = this.value(index) + more;
  }

  /** What was done to the motors takes effect. */
  refresh(): void {
    for (const motor of this.motors) motor.refresh(this.live, this.amps(motor.build.axis));
  }

  position(axis: MotorAxis): number {
    return this.value(AT[axis]);
  }

  /** mm that a second extruder has turned; 0 where there is none. */
  secondFilament(): number {
    return this.value(SECOND_E);
  }

  /** How far the second Z motor stands above the first; 0 where there is none. */
  tilt(): number {
    const two = this.motors.some(({ build }) => build.axis === 'z' && build.nth === 1);
    return two ? 2 * (this.value(SECOND_Z) - this.value(AT.z)) : 0;
  }

  /** Axes whose motor gets current and does not turn. */
  humming(): MotorAxis[] {
    const hums = ({ part, driver }: MotorBuild) => this.live.crossedMotors.has(part.id) && !driver.shutDown();
    return this.motors.flatMap((motor) => (motor.enabled() && hums(motor.build) ? [motor.build.axis] : []));
  }

  /** Steps that could not be made because an axis stood against the frame. */
  blocked(): Record<Axis, number> {
    return { x: this.value(BLOCKED), y: this.value(BLOCKED + 1), z: this.value(BLOCKED + 2) };
  }

  /** Steps that a motor had no force for, or did not hear. */
  lost(): Record<MotorAxis, number> {
    const lost = { x: 0, y: 0, z: 0, e: 0 };
    for (const motor of this.motors) lost[motor.build.axis] += motor.wasted();
    return lost;
  }

  /** Every motor with the module it hangs on. */
  modules(): Module[] {
    return this.motors.map((motor) => ({
      motorPart: motor.build.part.id,
      driverPart: motor.build.driverPart,
      driver: motor.build.driver,
      on: () => motor.enabled(),
    }));
  }

  /** Whether the module in a socket reports a motor that stands. */
  stalled(socket: string, now: number): boolean {
    return this.motors.some((motor) => socketOf(motor.build.part) === socket && motor.stalled(now));
  }

  /** Of each axis' first motor, and of a second extruder. */
  drivers(): ReadonlyMap<MotorAxis | 'e2', Driver> {
    return new Map(
      this.motors.flatMap(({ build: { axis, nth, driver } }): [MotorAxis | 'e2', Driver][] =>
        nth === 0 ? [[axis, driver]] : axis === 'e' && nth === 1 ? [['e2', driver]] : [],
      ),
    );
  }

  mark(): void {
    this.kept.set(this.state);
    for (const motor of this.motors) motor.mark();
  }

  rewind(): void {
    this.state.set(this.kept);
    for (const motor of this.motors) motor.rewind();
  }
}
