import { AXES, type Axis, type MotorAxis, MOTOR_AXES } from '@jolly/core/machine/machine';
import { driveOf } from '@jolly/core/machine/driveOf';
import { driveTrain } from '@jolly/core/settings/driveRules';
import { driverOf as driverPartOf, partsOf, type PlacedPart, socketOf } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';
import { stepsPerMm } from '@jolly/core/motion/stepsPerMm';
import type { Pulses } from '../board/runs';
import type { Module } from './driverLines';
import { type Driver, driverOf } from './drivers';
import type { Live } from './live';
import type { Pins } from './pins';

/** How far beyond its switch an axis can be pushed before it meets the frame, in mm. */
const OVERRUN_MM = 3;
/** What moves on an axis, in kg; what holds it back, in N; and what gravity pulls at, in N. */
interface Load {
  kg: number;
  friction: number;
  weight: number;
}
const LOADS: Record<MotorAxis, Load> = {
  x: { kg: 0.4, friction: 3, weight: 0 },
  y: { kg: 0.8, friction: 4, weight: 0 },
  z: { kg: 1.2, friction: 8, weight: 12 },
  e: { kg: 0.05, friction: 15, weight: 0 },
};
const SCREW_EFFICIENCY = 0.35;
const BELT_EFFICIENCY = 0.9;
/** A rotor that has lost its field catches it again below this, in full steps a second. */
const CATCHES_FULL_STEPS = 250;
/** A change of speed is taken over at least this long: rotor and belt give a little. */
const GIVES_S = 2e-3;
/** A motor without a pulse for so long stands. */
const STANDS_S = 0.01;
/** A tooth is slipped at this force. */
const SLIPS_N = 3.3;
/** What is left of the way while a belt slips. */
const SLIPS_TO = 0.9;

/** Where the machine's moving parts really are, whatever the firmware believes. */
export interface Frame {
  /** The chip's motors, by the pins that the firmware told for them. */
  motor(index: number, stepPin: number, dirPin: number, pulseNs: number, setupNs: number): void;
  /** The first `entries` of the pulses. */
  move(pulses: readonly Pulses[], entries: number, seconds: number, now: number): void;
  refresh(): void;
  position(axis: MotorAxis): number;
  /** mm that a second extruder has turned; 0 where there is none. */
  secondFilament(): number;
  /** How far the second Z motor stands above the first; 0 where there is none. */
  tilt(): number;
  /** Steps that could not be made because an axis stood against the frame, and those a motor had no force for. */
  blocked(): Record<Axis, number>;
  /** Axes whose motor gets current and does not turn. */
  humming(): MotorAxis[];
  lost(): Record<MotorAxis, number>;
  /** Of each axis' first motor, and of a second extruder. */
  drivers(): ReadonlyMap<MotorAxis | 'e2', Driver>;
  /** Every motor with the module it hangs on. */
  modules(): Module[];
  /** Whether the module in a socket reports a motor that stands. */
  stalled(socket: string, now: number): boolean;
  mark(): void;
  rewind(): void;
}

interface Motor {
  part: PlacedPart<PartOf<'motor'>>;
  driverPart: string;
  driver: Driver;
  stepPin: number;
  dirPin: number;
  enablePin: number;
  /** Level of its direction line that turns it towards plus. */
  plusHigh: boolean;
  /** It or its driver gives nothing. */
  dead: boolean;
  slips: boolean;
  load: Load;
  mmPerStep: number;
  microsteps: number;
  newtonsPerNm: number;
  axis: MotorAxis;
  /** Where its axis stands in the frame's state. */
  at: number;
  /** One of several that move the same axis. */
  shares: number;
  nth: number;
}

/** Where an axis meets the frame: a little beyond its travel, and no further than its measured room lets it. */
function stopsOf({ facts: { machine } }: Live, axis: Axis): [number, number] {
  const [from, to] = machine.frame.travel_mm[axis];
  const room = machine.frame.room_mm?.[axis];
  if (room === undefined) return [from - OVERRUN_MM, to + OVERRUN_MM];
  const low = from - Math.max(0, Math.min(OVERRUN_MM, (room - (to - from)) / 2));
  return [low, Math.min(to + OVERRUN_MM, low + room)];
}

/** Where each number of the frame's state stands. */
const AT: Record<MotorAxis, number> = { x: 0, y: 1, z: 2, e: 3 };
const SECOND_Z = 4;
const BLOCKED = 5;
const LOST = 8;
const SECOND_E = 12;
const MOTORS_FROM = 13;
/** Of each motor: its speed in mm/s, when it was so fast, whether it has lost its field, its direction line's last level, and
 * its load as a share of what it has. */
const PER_MOTOR = 5;
/** Slower motors do not feel their load. */
const FELT_MM_S = 4;
/** How long a direction must stand before a step, where a module's maker says nothing, in ns. */
const USUAL_SETUP_NS = 200;

/**
 * The moving parts. Their state is a row of numbers, so that it can be kept and taken back many times a second.
 * @param amps the current each axis' driver was set to
 * @param lowest how deep the nozzle may go where it stands: plate or frame
 * @param sag how much higher the second Z motor of a gantry stands, mm, before anything moved
 */
export function frameOf(
  live: Live,
  pins: Pins,
  start: Record<Axis, number>,
  amps: (axis: MotorAxis) => number,
  lowest: (x: number, y: number) => number,
  sag: number,
): Frame {
  const motors = motorsOf(live);
  /** By the chip's motor: what hangs on its step pin, and whether its direction line is the one told. */
  const wired: { index: number; motor: Motor; told: boolean; heard: boolean; late: boolean }[][] = [];
  const crossBelt = live.facts.machine.frame.kinematics === 'cross-belt';
  /** Low end and high end of X, Y and Z. */
  const ends = Float64Array.from(AXES.flatMap((axis) => stopsOf(live, axis)));
  const state = new Float64Array(MOTORS_FROM + PER_MOTOR * motors.length);
  const kept = new Float64Array(state.length);
  state.set([start.x, start.y, start.z, 0, start.z + sag]);
  const ways = new Float64Array(4);
  const value = (index: number) => state[index] ?? 0;
  const add = (index: number, more: number) => void (state[index] = value(index) + more);

  /** The way a motor really turns for its pulses, in mm; 0 when it has no field, no force, or is let go. */
  function turned(
    index: number,
    motor: Motor,
    high: boolean,
    pulse: Pulses,
    seconds: number,
    now: number,
  ): number {
    const own = MOTORS_FROM + PER_MOTOR * index;
    const plus = high === motor.plusHigh;
    const sign = plus ? 1 : -1;
    const speed = sign * pulse.perSecond * motor.mmPerStep;
    const before = now - value(own + 1) > STANDS_S ? 0 : value(own);
    /** m/s² */
    const change = Math.abs(speed - before) / 1000 / Math.max(seconds, GIVES_S);
    state[own] = speed;
    state[own + 1] = now;
    const { load } = motor;
    const holds = load.friction + (plus ? load.weight : 0);
    const needs = load.kg * change + holds;
    const rate = pulse.perSecond / motor.microsteps;
    const has = motor.driver.torque(rate, pulse.perSecond) * motor.newtonsPerNm * motor.shares;
    const catches = rate < CATCHES_FULL_STEPS && has >= holds;
    const stalled = isDead(motor) || (value(own + 2) === 1 ? !catches : needs > has);
    state[own + 2] = stalled ? 1 : 0;
    state[own + 4] = Math.abs(speed) < FELT_MM_S ? 0 : stalled ? 1 : Math.min(1, needs / Math.max(has, 1e-9));
    if (stalled) {
      add(LOST + motor.at, pulse.count);
      return 0;
    }
    const slip = motor.slips && needs > SLIPS_N ? SLIPS_TO : 1;
    return sign * pulse.count * motor.mmPerStep * slip;
  }

  /** A pulse shorter than the module hears moves nothing. */
  function missed(motor: Motor, count: number): number {
    add(LOST + motor.at, count);
    return 0;
  }

  /** The share of a way that is left where the direction line came too late: the first step after a turn goes the old way. */
  function afterTurn(
    { index, late }: { index: number; late: boolean },
    high: boolean,
    count: number,
  ): number {
    const own = MOTORS_FROM + PER_MOTOR * index + 3;
    const level = high ? 1 : -1;
    const turns = value(own) === -level;
    state[own] = level;
    return late && turns ? 1 - 2 / count : 1;
  }

  const isDead = (motor: Motor): boolean =>
    motor.dead || pins.level(motor.enablePin) || motor.driver.shutDown();

  function shift(axis: number, way: number): void {
    if (way === 0) return;
    const at = value(axis);
    const wanted = at + way;
    const end = ends[2 * axis] ?? 0;
    const high = ends[2 * axis + 1] ?? 0;
    // What lies below counts on the way down only, and asking for it takes time.
    const low = axis === AT.z && way < 0 ? Math.max(end, lowest(value(AT.x), value(AT.y))) : end;
    // Whatever already stands beyond an end may come back.
    const free = Math.max(Math.min(wanted, Math.max(high, at)), Math.min(low, at));
    state[axis] = free;
    if (free !== wanted) blockedBy(axis, Math.abs(wanted - free));
  }

  function blockedBy(axis: number, mm: number): void {
    add(BLOCKED + axis, Math.round(mm / (stepMm[axis] ?? 1)));
    const carriage = (at: number) => at === AT.x || at === AT.y;
    motors.forEach((motor, index) => {
      if (motor.at === axis || (crossBelt && carriage(axis) && carriage(motor.at)))
        state[MOTORS_FROM + PER_MOTOR * index + 4] = 1;
    });
  }

  /** What was done to the motors takes effect. */
  function refresh(): void {
    for (const motor of motors) {
      const { id } = motor.part;
      motor.plusHigh = plusHigh(live, motor.part, motor.axis) !== live.turnedMotors.has(id);
      motor.dead = live.deadMotors.has(id) || live.deadDrivers.has(motor.driverPart);
      motor.slips = live.slippingBelts.has(motor.axis);
      motor.driver.setAmps(amps(motor.axis));
      motor.driver.forceAmps(live.motorAmps.get(motor.axis));
    }
  }
  refresh();

  const stepMm = AXES.map((axis) => motors.find((motor) => motor.axis === axis)?.mmPerStep ?? 1);

  return {
    motor(chipMotor, stepPin, dirPin, pulseNs, setupNs) {
      wired[chipMotor] = [...motors.entries()].flatMap(([index, motor]) =>
        motor.stepPin === stepPin
          ? [
              {
                index,
                motor,
                told: motor.dirPin === dirPin,
                heard: pulseNs >= motor.driver.shortestNs,
                late: setupNs < USUAL_SETUP_NS,
              },
            ]
          : [],
      );
    },
    move(pulses, entries, seconds, now) {
      ways.fill(0);
      for (let entry = 0; entry < entries; entry += 1) {
        const pulse = pulses[entry];
        if (!pulse) continue;
        const hanging = wired[pulse.motor];
        for (let nth = 0; hanging !== undefined && nth < hanging.length; nth += 1) {
          const one = hanging[nth];
          if (!one) continue;
          const { motor } = one;
          motor.driver.warm(now, !pins.level(motor.enablePin));
          const high = one.told ? pulse.high : pins.level(motor.dirPin);
          const way = one.heard
            ? turned(one.index, motor, high, pulse, seconds, now) * afterTurn(one, high, pulse.count)
            : missed(motor, pulse.count);
          if (motor.nth === 1 && motor.at === AT.e) {
            add(SECOND_E, way);
            continue;
          }
          ways[motor.at] = (ways[motor.at] ?? 0) + way / motor.shares;
          if (motor.nth === 1 && motor.at === AT.z) add(SECOND_Z, way);
        }
      }
      const a = ways[0] ?? 0;
      const b = ways[1] ?? 0;
      const z = ways[2] ?? 0;
      const e = ways[3] ?? 0;
      // x = (A + B) / 2, y = (A − B) / 2
      shift(AT.x, crossBelt ? (a + b) / 2 : a);
      shift(AT.y, crossBelt ? (a - b) / 2 : b);
      shift(AT.z, z);
      add(AT.e, e);
    },
    refresh,
    position: (axis) => value(AT[axis]),
    secondFilament: () => value(SECOND_E),
    tilt: () =>
      motors.some(({ axis, nth }) => axis === 'z' && nth === 1) ? 2 * (value(SECOND_Z) - value(AT.z)) : 0,
    humming: () => motors.filter(({ part, enablePin, driver }) => live.crossedMotors.has(part.id) && !pins.level(enablePin) && !driver.shutDown()).map(({ axis }) => axis), // prettier-ignore
    blocked: () => ({ x: value(BLOCKED), y: value(BLOCKED + 1), z: value(BLOCKED + 2) }),
    lost: () => ({ x: value(LOST), y: value(LOST + 1), z: value(LOST + 2), e: value(LOST + 3) }),
    modules: () =>
      motors.map(({ part, driverPart, driver, enablePin }) => ({
        motorPart: part.id,
        driverPart,
        driver,
        on: () => !pins.level(enablePin),
      })),
    stalled: (socket, now) =>
      motors.some(({ part, driver }, index) => {
        const own = MOTORS_FROM + PER_MOTOR * index;
        const driven = now - value(own + 1) < STANDS_S;
        return socketOf(part) === socket && driven && driver.reportsStall(value(own + 4));
      }),
    drivers: () =>
      new Map(
        motors.flatMap(({ axis, nth, driver }): [MotorAxis | 'e2', Driver][] =>
          nth === 0 ? [[axis, driver]] : axis === 'e' && nth === 1 ? [['e2', driver]] : [],
        ),
      ),
    mark: () => kept.set(state),
    rewind: () => state.set(kept),
  };
}

function motorsOf(live: Live): Motor[] {
  const { facts } = live;
  return MOTOR_AXES.flatMap((axis) => {
    const parts = partsOf(facts, 'motor').filter(({ role }) => role === axis);
    return parts.flatMap((part, nth): Motor[] => {
      // One without a driver of its own hangs on the first one's.
      const train = driveTrain(facts, axis, driverPartOf(facts, part) ? part : parts[0]);
      const socket = facts.board.sockets.find(({ id }) => id === socketOf(part));
      const driverPart = driverPartOf(facts, part) ?? driverPartOf(facts, parts[0]);
      if (!train || !socket || !driverPart) return [];
      const mmPerStep = 1 / stepsPerMm(train);
      const perTurn = mmPerStep * train.fullSteps * train.microsteps;
      const efficiency = train.kind === 'screw' ? SCREW_EFFICIENCY : BELT_EFFICIENCY;
      return [
        {
          part,
          driverPart: driverPart.id,
          driver: driverOf(driverPart, part.type, facts.machine.supply.volts_v),
          stepPin: socket.step,
          dirPin: socket.dir,
          enablePin: socket.enable,
          plusHigh: true,
          dead: false,
          slips: false,
          load: LOADS[axis],
          mmPerStep,
          microsteps: train.microsteps,
          newtonsPerNm: (2 * Math.PI * efficiency * 1000) / perTurn,
          axis,
          at: AT[axis],
          // Two extruders feed in turn, each its own filament.
          shares: axis === 'e' ? 1 : parts.length,
          nth,
        },
      ];
    });
  });
}

/** A high direction level turns a shaft clockwise, unless the driver or a turned plug says otherwise. */
function plusHigh({ facts }: Live, motor: PlacedPart<PartOf<'motor'>>, axis: MotorAxis): boolean {
  const turned = motor.landing !== undefined && 'turned' in motor.landing && motor.landing.turned === true;
  const flips = driverPartOf(facts, motor)?.type.flips === true;
  const highIsClockwise = flips === turned;
  // Where nobody has looked, the bench's motors turn clockwise towards plus.
  return highIsClockwise === (driveOf(facts, axis, motor).plus_is !== 'anticlockwise');
}
