import type { Heights } from '../plate/heights';
import type { Screw, ScrewTurn } from '../plate/screwTurns';

/** How a shim below the nozzle feels, from nothing to held fast. */
export type Feel = 'free' | 'drags' | 'holds';

/** What is drawn while something is measured at a machine, and of its outcome. */
export type Picture =
  /** Heights that were read one after another, mm, and how far from their middle they may lie. */
  | { kind: 'readings'; readings: readonly number[]; limitMm: number; of?: number }
  /** The nozzle above a shim; `shownZ` as the board has it, mm. */
  | { kind: 'shim'; shownZ: number; stepMm: number; shimMm: number; runs: readonly number[] }
  /** The nozzle on the plate, and the tip of the probe at rest so far above it, mm, with what it must have at least. */
  | { kind: 'mount'; restMm: number; leastMm: number; drawnIn: boolean }
  /** Where the probe's mark lies against the nozzle's, mm. */
  | { kind: 'marks'; x: number; y: number; known: boolean }
  /** The plate from above with what each of its screws is turned by. */
  | { kind: 'screws'; turns: readonly ScrewTurn[]; screws: readonly Screw[]; round: number }
  /** A map, or what of it is there already. */
  | { kind: 'map'; map: Heights; partly?: true }
  /** A temperature over time, s and °C, about its target; the earlier one drawn behind. */
  | { kind: 'warming'; targetC: number; now: readonly HeatPoint[]; before?: readonly HeatPoint[] }
  /** Filament with its mark, mm. */
  | { kind: 'filament'; askedMm: number; markMm: number; leftMm?: number }
  /** A strip of the first layer at each nudge so far, mm, with how its strands lay. */
  | { kind: 'strips'; strips: readonly { nudgeMm: number; strands?: string }[] };

export interface HeatPoint {
  t: number;
  c: number;
}
