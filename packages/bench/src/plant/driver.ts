import type { PlacedPart } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';

/** Holding torque of usual motors, N·m for each ampere (rms). */
const NM_PER_AMP = 0.33;
/** What a turning motor gives of it, and what is left of that in the quiet mode. */
const PULL_OUT = 0.75;
const QUIET = 0.75;
/** Inductance over resistance of usual windings, in s. */
const WINDING_S = 1.2e-3;
const USUAL_OHMS = 2.4;
/** No load is as high. */
const NEVER = 1e9;
const ROOM_C = 25;
/** At its highest current with its heat sink it settles so far above the room. */
const RISE_C = 95;
const WARMS_IN_S = 40;
/** It warms slowly: worked out at most so often. */
const LOOKED_AT_S = 0.25;
const SHUTS_DOWN_C = 150;
const WORKS_AGAIN_C = 130;

/** A driver module: the current it gives, and how warm that makes it. */
export class Driver {
  /** The shortest step pulse it hears, in ns. */
  readonly shortestNs: number;
  private readonly maxA: number;
  private readonly reports: boolean;
  private readonly ohms: number;
  private given = 0;
  private own = 0;
  private told: number | undefined;
  private forced: number | undefined;
  /** A module that is told nothing over its line wakes up quiet. */
  private readonly wakesWith: number;
  private force: number;
  private level = NEVER;
  private corner = 0;
  private temperature = ROOM_C;
  private at = 0;
  private shut = false;

  /** @param volts of the supply: what drives the current into the windings */
  constructor(
    { type }: PlacedPart<PartOf<'driver'>>,
    motor: PartOf<'motor'>,
    private readonly volts: number,
  ) {
    this.shortestNs = type.min_pulse_us * 1000;
    this.maxA = type.max_a;
    this.reports = type.stall === true;
    this.ohms = motor.ohms ?? USUAL_OHMS;
    this.wakesWith = type.mode === 'stand-alone' ? 0 : Infinity;
    this.force = this.wakesWith;
  }

  /** Without supply it forgets what it was told. */
  loseSupply(): void {
    this.told = undefined;
    this.force = this.wakesWith;
    this.level = NEVER;
    this.give(this.forced ?? this.own);
  }

  amps(): number {
    return this.given;
  }

  /** Set at its pot, or by nature; what it is told over its line counts more. */
  setAmps(rms: number): void {
    this.own = rms;
    this.give(this.forced ?? this.told ?? this.own);
  }

  /** What it gives whatever anybody says: a fault. */
  forceAmps(rms: number | undefined): void {
    this.forced = rms;
    this.give(this.forced ?? this.told ?? this.own);
  }

  /** Told over its line: the current in A, the rate of steps from which it gives its full force, and the load in 255ths that
   * counts as standing still. */
  tellAmps(rms: number): void {
    this.told = Math.min(rms, this.maxA);
    this.give(this.forced ?? this.told);
  }

  forceFrom(stepsPerSecond: number): void {
    this.force = stepsPerSecond;
  }

  stallLevel(level: number): void {
    this.level = level;
  }

  /** The rate of steps from which it gives its full force. */
  fullForceFrom(): number {
    return this.force;
  }

  /** Whether its stall output reports a load, 1 being all that the motor has. */
  reportsStall(load: number): boolean {
    return this.reports && load * 255 > this.level;
  }

  /** Torque of its motor in N·m at a rate of full steps a second. */
  torque(fullStepsPerSecond: number, stepsPerSecond: number): number {
    const quiet = stepsPerSecond >= this.force ? 1 : QUIET;
    const falls = fullStepsPerSecond <= this.corner ? 1 : this.corner / fullStepsPerSecond;
    return NM_PER_AMP * this.given * PULL_OUT * quiet * falls;
  }

  /** Lets time pass; `on` while it is enabled. */
  warm(now: number, on: boolean): void {
    const seconds = now - this.at;
    if (seconds < LOOKED_AT_S) return;
    const settled = ROOM_C + (on && !this.shut ? RISE_C * (this.given / this.maxA) ** 2 : 0);
    this.temperature = settled + (this.temperature - settled) * Math.exp(-seconds / WARMS_IN_S);
    this.at = now;
    this.shut = this.temperature > (this.shut ? WORKS_AGAIN_C : SHUTS_DOWN_C);
  }

  temperatureC(): number {
    return this.temperature;
  }

  shutDown(): boolean {
    return this.shut;
  }

  private give(rms: number): void {
    this.given = rms;
    this.corner = this.volts / (4 * WINDING_S * this.ohms * rms);
  }
}
