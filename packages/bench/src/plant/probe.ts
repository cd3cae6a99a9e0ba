import type { PlacedPart } from '@jolly/core/machine/facts';
import { partsOf } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';
import type { Live } from './live';
import { seededRandom } from './random';
import type { Really } from './really';

/** A touch wanders by so much either way. */
const SCATTER_MM = 0.004;
/** One with a loose pin or mount by so much. */
const POOR_MM = 0.09;
/** It wanders from touch to touch; hung on the clock, so that looking at it changes nothing. */
const WANDERS_PER_S = 2;
const USUAL_ARRIVE_S = 0.2;

/** The bed probe as it is: where its pin is, and whether it feels the plate. */
export interface Probe {
  part: PlacedPart<PartOf<'probe'>>;
  /** A pulse of its servo line, in µs. */
  servo(highUs: number, now: number): void;
  deployed(now: number): boolean;
  /** Where it stands beside the nozzle, mm. */
  beside: { x: number; y: number };
  triggered(now: number): boolean;
}

/** −1 to 1, seldom far out; the same for the same two numbers. */
function wander(seed: number, step: number): number {
  const random = seededRandom((seed ^ 0x70be) + Math.imul(step, 0x9e3779b1));
  return random() + random() - 1;
}

/** @param gap mm between a place beside the nozzle and the plate below it; undefined beside the plate */
export function probeOf(
  live: Live,
  gap: (offset: { x: number; y: number }) => number | undefined,
  seed: number,
  really: Really,
): Probe | undefined {
  const part = partsOf(live.facts, 'probe')[0];
  const where = really.probe;
  if (!part || !where) return undefined;
  const times = part.type.servo_us;
  let wantsOut = times === undefined;
  let arrivesAt = 0;
  let was = wantsOut;
  const out = (now: number) => (now >= arrivesAt ? wantsOut : was);
  return {
    part,
    servo(highUs, now) {
      if (!times || highUs === 0) return;
      const wanted = Math.abs(highUs - times.deploy) < Math.abs(highUs - times.stow);
      if (wanted === wantsOut || (!wanted && live.neverStows.has(part.id))) return;
      was = out(now);
      wantsOut = wanted;
      arrivesAt = now + (part.type.arrive_s ?? USUAL_ARRIVE_S);
    },
    deployed: out,
    beside: { x: where.x, y: where.y },
    triggered(now) {
      if (live.neverTriggers.has(part.id) || !out(now)) return false;
      if (live.held.has(part.id)) return true;
      const below = gap(where);
      if (below === undefined) return false;
      const above = below + where.z;
      const scatter = live.scatters.has(part.id) ? POOR_MM : SCATTER_MM;
      // As far up as this no wandering reaches it.
      return above <= scatter && above + scatter * wander(seed, Math.floor(now * WANDERS_PER_S)) <= 0;
    },
  };
}
