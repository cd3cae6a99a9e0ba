import type { PlacedPart } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';

/** A driver module: the current it gives, and how warm that makes it. */
export interface Driver {
  amps(): number;
  /** Set at its pot, or by nature; what it is told over its line counts more. */
  setAmps(rms: number): void;
  /** What it gives whatever anybody says: a fault. */
  forceAmps(rms: number | undefined): void;
  /** Told over its line: the current in A, the rate of steps from which it gives its full force, and the load in 255ths that
   * counts as standing still. */
  tellAmps(rms: number): void;
  forceFrom(stepsPerSecond: number): void;
  stallLevel(level: number): void;
  /** The rate of steps from which it gives its full force. */
  fullForceFrom(): number;
  /** Whether its stall output reports a load, 1 being all that the motor has. */
  reportsStall(load: number): boolean;
  /** Torque of its motor in N·m at a rate of full steps a second. */
  torque(fullStepsPerSecond: number, stepsPerSecond: number): number;
  /** Lets time pass; `on` while it is enabled. */
  warm(now: number, on: boolean): void;
  temperatureC(): number;
  shutDown(): boolean;
  /** The shortest step pulse it hears, in ns. */
  shortestNs: number;
}

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

/** @param volts of the supply: what drives the current into the windings */
export function driverOf(part: PlacedPart<PartOf<'driver'>>, motor: PartOf<'motor'>, volts: number): Driver {
  const ohms = motor.ohms ?? USUAL_OHMS;
  let amps = 0;
  let own = 0;
  let told: number | undefined;
  let forced: number | undefined;
  let force = part.type.mode === 'stand-alone' ? 0 : Infinity;
  let level = NEVER;
  let corner = 0;
  let temperature = ROOM_C;
  let at = 0;
  let shut = false;

  const give = (rms: number) => {
    amps = rms;
    corner = volts / (4 * WINDING_S * ohms * rms);
  };

  return {
    amps: () => amps,
    setAmps(rms) {
      own = rms;
      give(forced ?? told ?? own);
    },
    forceAmps(rms) {
      forced = rms;
      give(forced ?? told ?? own);
    },
    tellAmps(rms) {
      told = Math.min(rms, part.type.max_a);
      give(forced ?? told);
    },
    forceFrom: (rate) => void (force = rate),
    fullForceFrom: () => force,
    stallLevel: (to) => void (level = to),
    reportsStall: (load) => part.type.stall === true && load * 255 > level,
    // A module that is told nothing over its line wakes up quiet.
    torque: (rate, steps) =>
      NM_PER_AMP * amps * PULL_OUT * (steps >= force ? 1 : QUIET) * (rate <= corner ? 1 : corner / rate),
    warm(now, on) {
      if (now - at < LOOKED_AT_S) return;
      const settled = ROOM_C + (on && !shut ? RISE_C * (amps / part.type.max_a) ** 2 : 0);
      temperature = settled + (temperature - settled) * Math.exp(-(now - at) / WARMS_IN_S);
      at = now;
      shut = temperature > (shut ? WORKS_AGAIN_C : SHUTS_DOWN_C);
    },
    shortestNs: part.type.min_pulse_us * 1000,
    temperatureC: () => temperature,
    shutDown: () => shut,
  };
}
