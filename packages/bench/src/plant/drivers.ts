import type { PlacedPart } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';

/** A driver module: the current it gives, and how warm that makes it. */
export interface Driver {
  amps(): number;
  setAmps(rms: number): void;
  /** Torque of its motor in N·m at a rate of full steps a second. */
  torque(fullStepsPerSecond: number): number;
  /** Lets time pass; `on` while it is enabled. */
  warm(now: number, on: boolean): void;
  temperatureC(): number;
  shutDown(): boolean;
}

/** Holding torque of usual motors, N·m for each ampere (rms). */
const NM_PER_AMP = 0.33;
/** What a turning motor gives of it, and what is left of that in the quiet mode. */
const PULL_OUT = 0.75;
const QUIET = 0.75;
/** Inductance over resistance of usual windings, in s. */
const WINDING_S = 1.2e-3;
const USUAL_OHMS = 2.4;
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
  // A module that is told nothing over its line wakes up quiet.
  const mode = part.type.mode === 'stand-alone' ? 1 : QUIET;
  let amps = 0;
  let corner = 0;
  let temperature = ROOM_C;
  let at = 0;
  let shut = false;

  return {
    amps: () => amps,
    setAmps(rms) {
      amps = rms;
      corner = volts / (4 * WINDING_S * ohms * rms);
    },
    torque: (rate) => NM_PER_AMP * amps * PULL_OUT * mode * (rate <= corner ? 1 : corner / rate),
    warm(now, on) {
      if (now - at < LOOKED_AT_S) return;
      const settled = ROOM_C + (on && !shut ? RISE_C * (amps / part.type.max_a) ** 2 : 0);
      temperature = settled + (temperature - settled) * Math.exp(-(now - at) / WARMS_IN_S);
      at = now;
      shut = temperature > (shut ? WORKS_AGAIN_C : SHUTS_DOWN_C);
    },
    temperatureC: () => temperature,
    shutDown: () => shut,
  };
}
