import { heatLine } from '../bringup/heatLines';
import type { HeatPoint } from '../bringup/picture';
import { type Answer, ask, type Procedure, show, tell, wait } from '../bringup/procedure';
import { SECOND_HOTEND } from '../machine/machine';
import { bodyCalled } from '../machine/bodyCalled';
import { bodiesIn } from '../proofs/bodies';
import type { Tuned } from './tuned';

/** A hot end is warm in minutes, a bed takes its time. */
const HOTEND = { everyS: 1, usualC: 200, fromBelowC: 60, watchOnS: 75 };
const BED = { everyS: 3, usualC: 60, fromBelowC: 15, watchOnS: 240 };
/**
 * Each body's number for `tune`, at what it is tuned when nothing else is said, from how far below its target a step is
 * watched at least, so that it can run over, and for how long after it has arrived.
 */
export const BODY: Readonly<Record<Tuned, typeof HOTEND & { number: number }>> = {
  hotend: { ...HOTEND, number: 0 },
  bed: { ...BED, number: 1 },
  [SECOND_HOTEND]: { ...HOTEND, number: 2 },
};
/** Within this of its target it counts as arrived. */
const ARRIVED_C = 2;
/** Nothing takes longer. */
const LONGEST_S = 3600;
/** Nothing that is heated changes faster than this, °C in a second: its sensor jumps. */
const JUMPS_C_S = 12;

export type Ended = { ended: Answer };

/** A step from cold, or as cold as it waits for, to its target, watched until it has settled. */
export interface Warming {
  trace: HeatPoint[];
  /** Until the duty was first held back: what a heater's curve is fitted to. */
  full: HeatPoint[];
  startC: number;
  overC: number;
  /** The share of full power that held it, once it had settled. */
  holds: number;
}

function* readNow(body: Tuned): Procedure<{ c: number; duty: number; atS: number } | Ended> {
  const answer = yield* ask('M105');
  const now = bodiesIn(answer)[body];
  if (answer.problem !== undefined || !now)
    return { ended: { ...answer, problem: answer.problem ?? `error: no reading of the ${bodyCalled(body)}` } };
  return { c: now.now, duty: now.duty, atS: answer.atS ?? NaN };
} // prettier-ignore

/** Lets some seconds pass; the answer that ended it, if one did, with the heat off. */
function* pass(body: Tuned, seconds: number): Procedure<Answer | undefined> {
  const waited = yield* ask(`G4 S${seconds}`);
  if (waited.problem !== undefined) return waited;
  const moment = yield* wait();
  if (moment.problem === undefined) return undefined;
  yield* ask(heatLine(body, 0));
  return moment;
}

function* cool(body: Tuned, toC: number): Procedure<Ended | undefined> {
  yield* ask(heatLine(body, 0));
  yield* tell(`The ${bodyCalled(body)} cools to ${Math.round(toC)} °C first.`);
  for (let waitedS = 0; waitedS < LONGEST_S; waitedS += 5) {
    const now = yield* readNow(body);
    if ('ended' in now) return now;
    if (now.c <= toC) return undefined;
    const ended = yield* pass(body, 5);
    if (ended) return { ended };
  }
  return { ended: { lines: [], problem: 'error: it does not cool down' } };
}

/** @param before drawn behind; @param fromC how warm it may be to begin with */
export function* warming(
  body: Tuned,
  targetC: number,
  before?: Warming,
  fromC = targetC - BODY[body].fromBelowC,
): Procedure<Warming | Ended> {
  const cooled = yield* cool(body, fromC);
  if (cooled) return cooled;
  const first = yield* readNow(body);
  if ('ended' in first) return first;
  yield* tell(`The ${bodyCalled(body)} warms to ${targetC} °C. The curve shows how far it runs over.`);
  const asked = yield* ask(heatLine(body, targetC));
  if (asked.problem !== undefined) return { ended: asked };
  const startS = asked.atS ?? first.atS;
  const trace: HeatPoint[] = [{ t: 0, c: first.c }];
  const full: HeatPoint[] = [];
  let held = false;
  const holding: number[] = [];
  let arrivedS: number | undefined;
  for (let t = 0; t < LONGEST_S && (arrivedS === undefined || t - arrivedS < BODY[body].watchOnS); ) {
    const ended = yield* pass(body, BODY[body].everyS);
    if (ended) return { ended };
    const now = yield* readNow(body);
    if ('ended' in now) return now;
    t = Number.isFinite(now.atS) ? now.atS - startS : t + BODY[body].everyS;
    const last = trace.at(-1);
    if (last && t <= last.t) continue;
    if (last && Math.abs(now.c - last.c) > JUMPS_C_S * (t - last.t))
      return {
        ended: {
          lines: [],
          problem: `error: its sensor jumps from ${last.c.toFixed(0)} to ${now.c.toFixed(0)} °C: look for a loose contact in its wire`,
        },
      };
    trace.push({ t, c: now.c });
    held ||= t > BODY[body].everyS * 2 && now.duty < 0.98;
    if (!held) full.push({ t, c: now.c });
    if (now.c >= targetC - ARRIVED_C) arrivedS ??= t;
    if (arrivedS !== undefined && t - arrivedS > BODY[body].watchOnS / 2) holding.push(now.duty);
    yield* show({ kind: 'warming', targetC, now: [...trace], ...(before && { before: before.trace }) });
  }
  if (arrivedS === undefined) return { ended: { lines: [], problem: `error: it did not reach ${targetC} °C in an hour` } };
  const overC = Math.max(0, Math.max(...trace.map(({ c }) => c)) - targetC);
  return { trace, full, startC: first.c, overC, holds: holding.reduce((sum, duty) => sum + duty, 0) / holding.length };
} // prettier-ignore
