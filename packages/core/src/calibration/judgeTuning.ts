import { riseInWords } from '../heat/riseInWords';
import { canHeat } from '../bringup/heatLines';
import { SECOND_HOTEND } from '../machine/machine';
import { CalcError } from '../calculation/calculation';
import { fitHeater } from '../heat/fitHeater';
import { afterFullOn } from '../heat/afterFullOn';
import { guardCheck, GUARD_OVERSHOOT_C } from '../heat/guardCheck';
import type { Kit } from '../kit/kit';
import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import { bodyCalled } from '../machine/bodyCalled';
import { nearestTime, type TimeWindow } from '../settings/guardWindow';
import { heatKey } from '../settings/heatKey';
import { AMBIENT_C } from '../settings/heaterCurve';
import { numberOf, type Settings } from '../settings/setting';
import { setsLine } from './boardSetting';
import { type Found, found, round } from './calibrationTool';
import type { Tuned } from './tuned';
import type { Warming } from './warming';

/** A body no warmer than this above the room is as cold as it gets, °C; a fit begins there. */
const COLD_C = 12;
/** A curve that has come less far towards where it leads, as a share, tells nothing of where that is. */
const SEEN_SHARE = 0.1;
/** So much more over the target is worse, °C: sensors wander by less. */
const WORSE_C = 0.5;
/** More than this over the target after tuning: the heater is too strong for it. */
const TOO_STRONG_C = 4;
/** A capped heater keeps so many times what holding its target takes; caps go by steps of so many percent, and no lower. */
const IN_HAND = 2;
const CAP_STEP = 5;
const LEAST_CAP = 10;

export interface Pid {
  p: number;
  i: number;
  d: number;
}
export interface Tuning {
  /** From as cold as it was found. */
  first: Warming;
  before: Warming;
  after: Warming;
  pid: Pid;
}
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

/** What a self-tune has come to: what it runs over now, its values, its heater's curve, its guard, and a cap where it is strong. */
export function judgeTuning(
  facts: Facts,
  settings: Settings,
  { body, targetC, first, before, after, pid, had }: Tuning & { body: Tuned; targetC: number; had: Pid },
): Found {
  const called = bodyCalled(body);
  const key = heatKey(body);
  const cap = numberOf(settings, `power.${key}`) / 100;
  const fit = fitOf(first, cap);
  const old = keepsOld({ before, after });
  const stays = old ? had : pid;
  const strong = isStrong(after);
  const offered = strong ? capFor(settings, body, after.holds) : undefined;
  const words = [
    `Tuned, it ran over by ${after.overC.toFixed(1)} °C; before, by ${before.overC.toFixed(1)} °C.`,
    isWorse({ before, after }) ? 'The old values run over less: they stay, and the board has them again.' : old ? 'The board has its old values again.' : '',
    offered !== undefined ? strongWords(called, targetC, offered) : '',
    // A capped heater warms by less.
    ...guardWords(facts, settings, body, fit && { ...fit, gainC: fit.gainC * cap, ambientC: first.startC }),
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
        { id: `over-${key}`, label: `${called}: runs over`, value: round((old ? before : after).overC, 1), unit: '°C' },
        ...letters.map((letter) => ({ id: `${letter}-${key}`, label: `${called}: ${letter.toUpperCase()}`, value: round(stays[letter], 3), unit: '' })),
        ...(fit ? [{ id: `gain-${key}`, label: `${called}: warms at full power by`, value: round(fit.gainC, 0), unit: '°C' }] : []),
      ],
      values: old ? [] : letters.map((letter) => ({ key: `pid.${key}.${letter}`, value: round(pid[letter], 3), because: `self-tune at ${targetC} °C` })),
      // The board has its old values.
      lines: old ? [] : [pidLine(facts.kit, body, pid)],
      picture: { kind: 'warming', targetC, now: after.trace, before: before.trace },
      ...(typeof offered === 'number' && { remedy: { label: `Cap ${capped(facts, body)} at ${offered} %`, edits: [overrideEdit(`power.${key}`, offered, `it ran over by ${after.overC.toFixed(1)} °C, tuned`)] } }),
    },
    strong ? 'poor' : 'found',
  );
} // prettier-ignore

/**
 * The cap that still holds a target with as much again in hand, in percent of full power by steps of five: `held` is the
 * share of full power that holding it takes. `spent` where the cap is that low already.
 */
function capFor(settings: Settings, body: Tuned, held: number): number | 'spent' {
  const wanted = Math.min(
    100,
    Math.max(LEAST_CAP, Math.ceil(round(100 * IN_HAND * held, 2) / CAP_STEP) * CAP_STEP),
  );
  return wanted < numberOf(settings, `power.${heatKey(body)}`) ? wanted : 'spent';
}

function strongWords(called: string, targetC: number, cap: number | 'spent'): string {
  return cap === 'spent'
    ? `The ${called} runs over, and its power is capped as low as ${targetC} °C allow: look whether its sensor sits loose, or far from its heater.`
    : `The ${called} is strong for its mass. ${cap} % of its power hold ${targetC} °C with as much again in hand: cap it, build and flash, then tune again.`;
} // prettier-ignore

/** What a power cap holds back: a second hot end follows the first until it has a cap of its own. */
const capped = (facts: Facts, body: Tuned): string =>
  body === 'hotend' && canHeat(facts, SECOND_HOTEND) && !facts.machine.settings['power.second-hotend']
    ? 'both hot ends'
    : `the ${bodyCalled(body)}`;

/** Whether what was tuned runs over more than what was there. */
const isWorse = ({ before, after }: Pick<Tuning, 'before' | 'after'>): boolean =>
  after.overC > before.overC + WORSE_C;

/** Tuned, it still runs over by more than a heater of its mass should. */
const isStrong = ({ overC }: Warming): boolean => overC > TOO_STRONG_C;

/** Whether the old values are kept: what was tuned is worse, or not good enough to be set. */
const keepsOld = ({ before, after }: Pick<Tuning, 'before' | 'after'>): boolean =>
  isWorse({ before, after }) || isStrong(after);

/** The guard's windows held against the heater as it really warms, at the hottest it may be asked for. */
function guardWords(
  facts: Facts,
  settings: Settings,
  body: Tuned,
  fit: { gainC: number; tauS: number; deadS: number; ambientC: number } | undefined,
): string[] {
  const by = heatKey(body);
  if (settings.get(`guard.${by}`)?.value !== true) return ['Its guard is off: nothing stops it when its sensor slips out.'];
  const targetC = numberOf(settings, `heat.${by}.max`);
  if (!fit || targetC <= fit.ambientC) return [];
  const guard = (key: string) => numberOf(settings, `guard.${by}.${key}`);
  const judged = (other: Partial<Record<TimeWindow, number>> = {}) =>
    guardCheck.ofChecked({
      ...fit,
      targetC,
      watchRiseC: guard('rise'),
      watchPeriodS: other['rise-time'] ?? guard('rise-time'),
      holdDropC: guard('drop'),
      holdPeriodS: other['drop-time'] ?? guard('drop-time'),
    });
  const instead = (window: TimeWindow, going: 'longer' | 'shorter', suits: (s: number) => boolean) => {
    const s = nearestTime(facts, settings, { by, window, going }, suits);
    return s === undefined ? 'No time that it can be set to suits it.' : `Make guard.${by}.${window} ${s} s at Settings; it is ${guard(window)} s.`;
  };
  const { falseTripWarm, warmRiseC, holdVerdict } = judged();
  if (falseTripWarm)
    return [`As this heater really warms, its guard would trip by mistake near ${targetC} °C: ${riseInWords(warmRiseC, guard('rise-time'))}, and the guard waits for ${guard('rise')} °C. ${instead('rise-time', 'longer', (s) => !judged({ 'rise-time': s }).falseTripWarm)}`];
  const tooHot = (s: number) => afterFullOn(fit, targetC, s) > targetC + GUARD_OVERSHOOT_C;
  if (tooHot(guard('rise-time')))
    return [`As this heater really warms, its guard would act too late when the sensor slips out while it warms: just below ${targetC} °C it would come to ${Math.round(afterFullOn(fit, targetC, guard('rise-time')))} °C. ${instead('rise-time', 'shorter', (s) => !tooHot(s))}`];
  return holdVerdict === 'late'
    ? [`As this heater really warms, its guard would act too late when the sensor slips out at ${targetC} °C. ${instead('drop-time', 'shorter', (s) => judged({ 'drop-time': s }).holdVerdict !== 'late')}`]
    : ['Its guard fits the heater as it really warms.'];
} // prettier-ignore

/** The line that gives a body its P, I and D. */
function pidLine(kit: Kit, body: Tuned, { p, i, d }: Pid): string {
  const of = `pid.${heatKey(body)}`;
  return setsLine(kit, { [`${of}.p`]: round(p, 3), [`${of}.i`]: round(i, 3), [`${of}.d`]: round(d, 3) });
}
