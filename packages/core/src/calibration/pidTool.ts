import type { HeatPoint } from '../bringup/picture';
import { type Answer, ask, type Procedure, replies, show, tell, wait } from '../bringup/procedure';
import { CalcError } from '../calculation/calculation';
import { fitHeater } from '../heat/fitHeater';
import { guardCheck } from '../heat/guardCheck';
import { overrideEdit } from '../machine/edit';
import { type Facts, partFor } from '../machine/facts';
import { HEATED, type Heated } from '../machine/machine';
import { heatLine } from '../bringup/heatLines';
import { bodiesIn, bodyCalled } from '../proofs/bodies';
import { AMBIENT_C } from '../settings/heaterCurve';
import { numberOf, type Settings } from '../settings/setting';
import {
  type CalibrationTool,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
} from './calibrationTool';
import { onBoard } from './warmUp';

/** Each body's number for `tune`, how warmed it is watched, and what it is tuned at when nothing else is said. */
const BODY: Readonly<Record<Heated, { number: number; everyS: number; setsWith: string; usual: number }>> = {
  hotend: { number: 0, everyS: 1, setsWith: 'M301', usual: 200 },
  bed: { number: 1, everyS: 3, setsWith: 'M304', usual: 60 },
};
/** A step is watched from so far below its target at least, °C, so that it can run over. */
const FROM_BELOW_C: Readonly<Record<Heated, number>> = { hotend: 60, bed: 15 };
/** Within this of its target it counts as arrived, and is watched on for so long. */
const ARRIVED_C = 2;
const WATCH_ON_S: Readonly<Record<Heated, number>> = { hotend: 75, bed: 240 };
/** Nothing takes longer. */
const LONGEST_S = 3600;
/** A body no warmer than this above the room is as cold as it gets, °C; a fit begins there. */
const COLD_C = 12;
/** A curve that has come less far towards where it leads, as a share, tells nothing of where that is. */
const SEEN_SHARE = 0.1;
/** Nothing that is heated changes faster than this, °C in a second: its sensor jumps. */
const JUMPS_C_S = 12;
/** So much more over the target is worse, °C: sensors wander by less. */
const WORSE_C = 0.5;
/** More than this over the target after tuning: the heater is too strong for it. */
const TOO_STRONG_C = 4;
/** A capped heater keeps so many times what holding its target takes; caps go by steps of so many percent, and no lower. */
const IN_HAND = 2;
const CAP_STEP = 5;
const LEAST_CAP = 10;

/** P, I and D of each heated body by the image's own self-tune, with what it ran over before and after. */
export const pidTools = (facts: Facts, settings: Settings): CalibrationTool[] =>
  HEATED.filter((body) => partFor(facts, 'heater', body)).map((body) => pidTool(facts, settings, body));

function pidTool(facts: Facts, settings: Settings, body: Heated): CalibrationTool {
  const called = bodyCalled(body);
  const byPid = settings.get(`control.${body}`)?.value === 'pid';
  const missing = byPid
    ? missingOf(facts, settings, ['tune'])
    : `The ${called} is switched on and off without PID on this machine (control.${body}).`;
  const most = numberOf(settings, `heat.${body}.max`);
  const tool: CalibrationTool = {
    id: `pid-${body}`,
    title: `PID of the ${called}`,
    what: `How hard the ${called} is heated on the way to its target and at it. Tune it at the heat you print at, with the fan and in the room you print in; again after another heater, sensor, fan, supply or board.`,
    toHand: body === 'hotend' ? ['No filament in the nozzle, or a scrap below it'] : ['The plate as you print on it', 'Some time: it cools slowly in between'],
    caution: `The ${called} gets hot: it burns fingers. Stay with it.`,
    choosing: [
      { key: 'targetC', label: 'Tune at', unit: '°C', range: [AMBIENT_C + 20, most - 5], value: Math.min(most - 5, BODY[body].usual), help: 'Where you print.' },
    ],
    after: [`heat-${body}`, `guard-${body}`],
    ...(missing && { missing }),
    *run(chosen) {
      const targetC = Math.round(numberIn(tool, chosen, 'targetC'));
      const had = yield* pidNow(settings, body);
      const result = yield* tuneAndWatch(body, targetC);
      yield* ask(heatLine(body, 0));
      // The self-tune has put its values in place already: what was measured by half leaves nothing behind.
      if ('ended' in result || isWorse(result)) yield* ask(pidLine(body, had));
      if ('ended' in result) return endedBy(result.ended);
      return judged(settings, { body, targetC, had, ...result });
    },
  };
  return tool;
} // prettier-ignore

interface Pid {
  p: number;
  i: number;
  d: number;
}
interface Tuned {
  /** From as cold as it was found. */
  first: Warming;
  before: Warming;
  after: Warming;
  pid: Pid;
}
type Ended = { ended: Answer };

function* tuneAndWatch(body: Heated, targetC: number): Procedure<Tuned | Ended> {
  // From as cold as it is, for the heater's own curve; then twice from the same warmth, to be compared.
  const first = yield* warming(body, targetC);
  if ('ended' in first) return first;
  const fromC = targetC - FROM_BELOW_C[body];
  const before = first.startC < fromC - 2 ? yield* warming(body, targetC, undefined, fromC) : first;
  if ('ended' in before) return before;
  const called = bodyCalled(body);
  yield* tell(`The ${called} swings about ${targetC} °C now, five times.`);
  const answer = yield* ask(`tune h=${BODY[body].number} c=${targetC}`);
  const values = replies(answer, 'tuned')[0]?.values;
  const pid = { p: Number(values?.['p']), i: Number(values?.['i']), d: Number(values?.['d']) };
  if (answer.problem !== undefined) return { ended: answer };
  if (!Object.values(pid).every(Number.isFinite))
    return { ended: { ...answer, problem: 'error: the self-tune told no P, I and D' } };
  const after = yield* warming(body, targetC, before, before.startC);
  return 'ended' in after ? after : { first, before, after, pid };
}

/** P, I and D as the running board has them. */
function* pidNow(settings: Settings, body: Heated): Procedure<Pid> {
  const of = (letter: 'p' | 'i' | 'd') =>
    onBoard(settings, BODY[body].setsWith, letter.toUpperCase(), `pid.${body}.${letter}`);
  return { p: yield* of('p'), i: yield* of('i'), d: yield* of('d') };
}

/** A step from cold, or as cold as it waits for, to its target, watched until it has settled. */
interface Warming {
  trace: HeatPoint[];
  /** Until the duty was first held back: what a heater's curve is fitted to. */
  full: HeatPoint[];
  startC: number;
  overC: number;
  /** The share of full power that held it, once it had settled. */
  holds: number;
}

function* readNow(body: Heated): Procedure<{ c: number; duty: number; atS: number } | Ended> {
  const answer = yield* ask('M105');
  const now = bodiesIn(answer)[body];
  if (answer.problem !== undefined || !now)
    return { ended: { ...answer, problem: answer.problem ?? `error: no reading of the ${bodyCalled(body)}` } };
  return { c: now.now, duty: now.duty, atS: answer.atS ?? NaN };
} // prettier-ignore

/** Lets some seconds pass; the answer that ended it, if one did, with the heat off. */
function* pass(body: Heated, seconds: number): Procedure<Answer | undefined> {
  const waited = yield* ask(`G4 S${seconds}`);
  if (waited.problem !== undefined) return waited;
  const moment = yield* wait();
  if (moment.problem === undefined) return undefined;
  yield* ask(heatLine(body, 0));
  return moment;
}

function* cool(body: Heated, toC: number): Procedure<Ended | undefined> {
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
function* warming(
  body: Heated,
  targetC: number,
  before?: Warming,
  fromC = targetC - FROM_BELOW_C[body],
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
  for (let t = 0; t < LONGEST_S && (arrivedS === undefined || t - arrivedS < WATCH_ON_S[body]); ) {
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
    if (arrivedS !== undefined && t - arrivedS > WATCH_ON_S[body] / 2) holding.push(now.duty);
    yield* show({ kind: 'warming', targetC, now: [...trace], ...(before && { before: before.trace }) });
  }
  if (arrivedS === undefined) return { ended: { lines: [], problem: `error: it did not reach ${targetC} °C in an hour` } };
  const overC = Math.max(0, Math.max(...trace.map(({ c }) => c)) - targetC);
  return { trace, full, startC: first.c, overC, holds: holding.reduce((sum, duty) => sum + duty, 0) / holding.length };
} // prettier-ignore

/** The heater's own curve from a step that began cold; undefined where it did not, or too little was seen of it. */
function fitOf({ full, startC }: Warming, power: number) {
  if (startC > AMBIENT_C + COLD_C || full.length < 8) return undefined;
  try {
    const fit = fitHeater({ trace: full, duty: power, ambientC: startC });
    const last = full.at(-1)?.c ?? startC;
    return last - startC < SEEN_SHARE * fit.gainC ? undefined : fit;
  } catch (error) {
    if (error instanceof CalcError) return undefined;
    throw error;
  }
}

function judged(
  settings: Settings,
  { body, targetC, first, before, after, pid, had }: Tuned & { body: Heated; targetC: number; had: Pid },
): Found {
  const called = bodyCalled(body);
  const fit = fitOf(first, numberOf(settings, `power.${body}`) / 100);
  const worse = isWorse({ before, after });
  const stays = worse ? had : pid;
  const strong = after.overC > TOO_STRONG_C;
  const cap = strong ? capFor(settings, body, after.holds) : undefined;
  const words = [
    `Tuned, it ran over by ${after.overC.toFixed(1)} °C; before, by ${before.overC.toFixed(1)} °C.`,
    worse ? 'The old values run over less: they stay, and the board has them again.' : '',
    cap !== undefined ? strongWords(called, targetC, cap) : '',
    ...guardWords(settings, body, targetC, fit && { ...fit, ambientC: first.startC }),
  ].filter((line) => line !== '').join(' ');
  const letters = ['p', 'i', 'd'] as const;
  return found(
    words,
    {
      evidence: [
        `P ${pid.p} I ${pid.i} D ${pid.d}, swung about ${targetC} °C`,
        `warmed from ${before.startC.toFixed(0)} °C before and ${after.startC.toFixed(0)} °C after`,
        fit
          ? `its heater: ${fit.gainC.toFixed(0)} °C at full power, ${fit.tauS.toFixed(0)} s, ${fit.deadS.toFixed(1)} s late; the fit is off by ${fit.rmsC.toFixed(2)} °C`
          : 'its heater was not fitted: the first step did not begin cold, or is too straight to tell',
        `held by ${(100 * after.holds).toFixed(0)} % of its power`,
      ],
      figures: [
        { id: `over-${body}`, label: `${called}: runs over`, value: round((worse ? before : after).overC, 1), unit: '°C' },
        ...letters.map((letter) => ({ id: `${letter}-${body}`, label: `${called}: ${letter.toUpperCase()}`, value: round(stays[letter], 3), unit: '' })),
        ...(fit ? [{ id: `gain-${body}`, label: `${called}: warms at full power by`, value: round(fit.gainC, 0), unit: '°C' }] : []),
      ],
      values: worse ? [] : letters.map((letter) => ({ key: `pid.${body}.${letter}`, value: round(pid[letter], 3), because: `self-tune at ${targetC} °C` })),
      // The old values were given back already.
      lines: worse ? [] : [pidLine(body, pid)],
      picture: { kind: 'warming', targetC, now: after.trace, before: before.trace },
      ...(typeof cap === 'number' && { remedy: { label: `Cap the ${called} at ${cap} %`, edits: [overrideEdit(`power.${body}`, cap, `it ran over by ${after.overC.toFixed(1)} °C, tuned`)] } }),
    },
    strong ? 'poor' : 'found',
  );
} // prettier-ignore

/**
 * The cap that still holds a target with as much again in hand, in percent of full power by steps of five: `held` is the
 * share of full power that holding it takes. `spent` where the cap is that low already.
 */
function capFor(settings: Settings, body: Heated, held: number): number | 'spent' {
  const wanted = Math.min(
    100,
    Math.max(LEAST_CAP, Math.ceil(round(100 * IN_HAND * held, 2) / CAP_STEP) * CAP_STEP),
  );
  return wanted < numberOf(settings, `power.${body}`) ? wanted : 'spent';
}

function strongWords(called: string, targetC: number, cap: number | 'spent'): string {
  return cap === 'spent'
    ? `The ${called} runs over, and its power is capped as low as ${targetC} °C allow: look whether its sensor sits loose, or far from its heater.`
    : `The ${called} is strong for its mass. ${cap} % of its power hold ${targetC} °C with as much again in hand: cap it, build and flash, then tune again.`;
} // prettier-ignore

/** Whether what was tuned runs over more than what was there. */
const isWorse = ({ before, after }: Pick<Tuned, 'before' | 'after'>): boolean =>
  after.overC > before.overC + WORSE_C;

const pidLine = (body: Heated, { p, i, d }: Pid): string =>
  `${BODY[body].setsWith} P${round(p, 3)} I${round(i, 3)} D${round(d, 3)}`;

/** The guard's windows held against the heater as it really warms. */
function guardWords(
  settings: Settings,
  body: Heated,
  targetC: number,
  fit: { gainC: number; tauS: number; deadS: number; ambientC: number } | undefined,
): string[] {
  if (settings.get(`guard.${body}`)?.value !== true) return ['Its guard is off: nothing stops it when its sensor slips out.'];
  if (!fit || targetC <= fit.ambientC) return [];
  const guard = (key: string) => numberOf(settings, `guard.${body}.${key}`);
  const { falseTripWarm, warmRiseC, holdVerdict } = guardCheck.ofChecked({
    ...fit,
    targetC,
    watchRiseC: guard('rise'),
    watchPeriodS: guard('rise-time'),
    holdDropC: guard('drop'),
    holdPeriodS: guard('drop-time'),
  });
  if (falseTripWarm) return [`As this heater really warms, its guard would trip by mistake near ${targetC} °C: it rises ${warmRiseC.toFixed(1)} °C in ${guard('rise-time')} s, and the guard waits for ${guard('rise')} °C.`];
  return holdVerdict === 'late'
    ? ['As this heater really warms, its guard would act too late when the sensor slips out. Shorten its time at Settings.']
    : ['Its guard fits the heater as it really warms.'];
} // prettier-ignore
