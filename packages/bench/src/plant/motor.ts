import { driveOf } from '@jolly/core/machine/driveOf';
import { driverOf as driverPartOf, partsOf, type PlacedPart, socketOf } from '@jolly/core/machine/facts';
import { type MotorAxis, MOTOR_AXES } from '@jolly/core/machine/machine';
import { stepsPerMm } from '@jolly/core/motion/stepsPerMm';
import type { PartOf } from '@jolly/core/parts/part';
import { driveTrain } from '@jolly/core/settings/driveRules';
import type { Pulses } from '../board/runs';
import { Driver } from './driver';
import type { Live } from './live';
import type { Pins } from './pins';

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
/** Slower motors do not feel their load. */
const FELT_MM_S = 4;
/** How long a direction must stand before a step, where a module's maker says nothing, in ns. */
const USUAL_SETUP_NS = 200;

/** What a motor is built into. */
export interface MotorBuild {
  part: PlacedPart<PartOf<'motor'>>;
  driverPart: string;
  driver: Driver;
  axis: MotorAxis;
  /** Its axis as a number, in the order of MOTOR_AXES. */
  at: number;
  stepPin: number;
  dirPin: number;
  enablePin: number;
  load: Load;
  mmPerStep: number;
  microsteps: number;
  newtonsPerNm: number;
  /** One of several that move the same axis, and which of them. */
  shares: number;
  nth: number;
}

/** What changes with every pulse. */
interface Turning {
  /** mm/s, and when it was so fast. */
  speed: number;
  at: number;
  /** It has lost its field. */
  lost: boolean;
  /** Its direction line's last level; 0 before the first pulse. */
  level: -1 | 0 | 1;
  /** Its load as a share of what it has. */
  load: number;
  /** Pulses that turned nothing. */
  wasted: number;
}

const standing = (): Turning => ({ speed: 0, at: 0, lost: false, level: 0, load: 0, wasted: 0 });

function copy(from: Turning, to: Turning): void {
  to.speed = from.speed;
  to.at = from.at;
  to.lost = from.lost;
  to.level = from.level;
  to.load = from.load;
  to.wasted = from.wasted;
}

/** A motor of the machine: what its pulses really turn. */
export class Motor {
  /** Level of its direction line that turns it towards plus. */
  private plusHigh = true;
  /** It or its driver gives nothing. */
  private dead = false;
  private slips = false;
  private readonly turning = standing();
  private readonly kept = standing();

  constructor(
    readonly build: MotorBuild,
    private readonly pins: Pins,
  ) {}

  /** What was done to it takes effect. @param amps what its driver was set to */
  refresh(live: Live, amps: number): void {
    const { part, driverPart, driver, axis } = this.build;
    this.plusHigh = plusHigh(live, part, axis) !== live.turnedMotors.has(part.id);
    this.dead = live.supplyOff || live.deadMotors.has(part.id) || live.deadDrivers.has(driverPart);
    this.slips = live.slippingBelts.has(axis);
    driver.setAmps(amps);
    driver.forceAmps(live.motorAmps.get(axis));
    if (live.supplyOff) driver.loseSupply();
  }

  enabled(): boolean {
    return !this.pins.level(this.build.enablePin);
  }

  /** The way it really turns for pulses, in mm; 0 when it has no field, no force, or is let go. */
  turn(line: StepLine, pulse: Pulses, seconds: number, now: number): number {
    this.build.driver.warm(now, this.enabled());
    const high = line.told ? pulse.high : this.pins.level(this.build.dirPin);
    // A pulse shorter than the module hears moves nothing.
    if (!line.heard) {
      this.turning.wasted += pulse.count;
      return 0;
    }
    const way = this.pulled(high, pulse, seconds, now);
    return way * this.afterTurn(line.late, high, pulse.count);
  }

  private pulled(high: boolean, pulse: Pulses, seconds: number, now: number): number {
    const { turning, build } = this;
    const { mmPerStep, load } = build;
    const plus = high === this.plusHigh;
    const sign = plus ? 1 : -1;
    const speed = sign * pulse.perSecond * mmPerStep;
    const before = now - turning.at > STANDS_S ? 0 : turning.speed;
    /** m/s² */
    const change = Math.abs(speed - before) / 1000 / Math.max(seconds, GIVES_S);
    turning.speed = speed;
    turning.at = now;
    const holds = load.friction + (plus ? load.weight : 0);
    const needs = load.kg * change + holds;
    const rate = pulse.perSecond / build.microsteps;
    const has = build.driver.torque(rate, pulse.perSecond) * build.newtonsPerNm * build.shares;
    const catches = rate < CATCHES_FULL_STEPS && has >= holds;
    const lost = this.isDead() || (turning.lost ? !catches : needs > has);
    turning.lost = lost;
    turning.load = Math.abs(speed) < FELT_MM_S ? 0 : lost ? 1 : Math.min(1, needs / Math.max(has, 1e-9));
    if (lost) {
      turning.wasted += pulse.count;
      return 0;
    }
    const slip = this.slips && needs > SLIPS_N ? SLIPS_TO : 1;
    return sign * pulse.count * mmPerStep * slip;
  }

  /** The share of a way that is left where the direction line came too late: the first step after a turn goes the old way. */
  private afterTurn(late: boolean, high: boolean, count: number): number {
    const level = high ? 1 : -1;
    const turns = this.turning.level === -level;
    this.turning.level = level;
    return late && turns ? 1 - 2 / count : 1;
  }

  private isDead(): boolean {
    return this.dead || !this.enabled() || this.build.driver.shutDown();
  }

  /** What it moves stands against the frame. */
  stopped(): void {
    this.turning.load = 1;
  }

  /** Its driver reports that it stands, while it is driven. */
  stalled(now: number): boolean {
    return now - this.turning.at < STANDS_S && this.build.driver.reportsStall(this.turning.load);
  }

  wasted(): number {
    return this.turning.wasted;
  }

  mark(): void {
    copy(this.turning, this.kept);
  }

  rewind(): void {
    copy(this.kept, this.turning);
  }

  /** How the chip's motor reaches this one with the pins it was told; undefined when its step pin is another. */
  stepLine(stepPin: number, dirPin: number, pulseNs: number, setupNs: number): StepLine | undefined {
    const { build } = this;
    if (build.stepPin !== stepPin) return undefined;
    return {
      motor: this,
      told: build.dirPin === dirPin,
      heard: pulseNs >= build.driver.shortestNs,
      late: setupNs < USUAL_SETUP_NS,
    };
  }
}

/** A motor that hangs on a step pin: whether its direction line is the one told, and whether it hears the pulses. */
export interface StepLine {
  motor: Motor;
  told: boolean;
  heard: boolean;
  late: boolean;
}

/** The motors of a machine, those of one axis in the order of their parts. */
export function motorsOf({ facts }: Live, pins: Pins): Motor[] {
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
      const build = {
        part,
        driverPart: driverPart.id,
        driver: new Driver(driverPart, part.type, facts.machine.supply.volts_v),
        axis,
        at: MOTOR_AXES.indexOf(axis),
        stepPin: socket.step,
        dirPin: socket.dir,
        enablePin: socket.enable,
        load: LOADS[axis],
        mmPerStep,
        microsteps: train.microsteps,
        newtonsPerNm: (2 * Math.PI * efficiency * 1000) / perTurn,
        // Two extruders feed in turn, each its own filament.
        shares: axis === 'e' ? 1 : parts.length,
        nth,
      };
      return [new Motor(build, pins)];
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
