import type { Remedy, Spoken } from '../finding/finding';
import { riseInWords } from '../heat/riseInWords';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import { TUNED } from '../calibration/tuned';
import { guardCheck, GUARD_OVERSHOOT_C } from '../heat/guardCheck';
import { afterFullOn } from '../heat/afterFullOn';
import { overrideEdit } from '../machine/edit';
import { type Facts, partFor } from '../machine/facts';
import { WARMED, type Warmed } from '../machine/machine';
import { bodyCalled } from '../machine/bodyCalled';
import { nearestTime, type TimeWindow } from '../settings/guardWindow';
import { type HeatKey, heatKey } from '../settings/heatKey';
import { heaterCurve } from '../settings/heaterCurve';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';

type Window = TimeWindow | 'rise' | 'drop';
interface Guard {
  key: HeatKey;
  body: Warmed;
  targetC: number;
  watchRiseC: number;
  watchPeriodS: number;
  holdDropC: number;
  holdPeriodS: number;
  verdict: ReturnType<typeof guardCheck>;
  /** Where the body is when the guard acts on a sensor that slipped out just below the target, °C. */
  warmedC: number;
  evidence: string;
}

/** The guard of a body against its heater; undefined where nothing is guarded or can reach the target. */
function guardOf(
  facts: Facts,
  settings: Settings,
  body: Warmed,
  other: Partial<Record<Window, number>> = {},
): Guard | undefined {
  const curve = heaterCurve(facts, settings, body);
  const key = heatKey(body);
  const targetC = numberOf(settings, `heat.${key}.max`);
  if (!curve || settings.get(`guard.${key}`)?.value !== true || targetC <= curve.ambientC) return undefined;
  const window = (of: Window) => other[of] ?? numberOf(settings, `guard.${key}.${of}`);
  const windows = {
    watchRiseC: window('rise'),
    watchPeriodS: window('rise-time'),
    holdDropC: window('drop'),
    holdPeriodS: window('drop-time'),
  };
  const { gainC, tauS, deadS } = curve;
  return {
    key,
    body,
    targetC,
    ...windows,
    verdict: guardCheck.ofChecked({ ...curve, targetC, ...windows }),
    warmedC: afterFullOn(curve, targetC, windows.watchPeriodS),
    evidence: `${partFor(facts, 'heater', body)?.id} warms by ${Math.round(gainC)} °C at full power, ${tauS} s, ${deadS} s late`,
  };
}

const guardsOf = (facts: Facts, settings: Settings): Guard[] =>
  WARMED.flatMap((body) => guardOf(facts, settings, body) ?? []);

/** A way a guard's times do not suit a heater. */
interface Misfit {
  /** The time that is wrong, and the temperature it goes with. */
  time: TimeWindow;
  degrees: 'rise' | 'drop';
  is(guard: Guard): boolean;
  what: string;
  why(guard: Guard): string;
  /** A guard that trips by mistake waits longer, one that acts too late shorter. */
  suits: 'longer' | 'shorter';
}

const TRIPS: Misfit = {
  time: 'rise-time',
  degrees: 'rise',
  is: ({ verdict }) => verdict.falseTripWarm,
  what: 'would raise false alarms while it warms',
  why: ({ targetC, verdict, watchPeriodS, watchRiseC }) =>
    `Near ${targetC} °C ${riseInWords(verdict.warmRiseC, watchPeriodS)}; the guard waits for ${watchRiseC} °C.`,
  suits: 'longer',
};

/** Readings wander by so many degrees, and for so many seconds, with nothing amiss. */
const WANDERS_C = 2;
const WANDERS_S = 5;
const NERVOUS: Misfit = {
  time: 'drop-time',
  degrees: 'drop',
  is: ({ holdDropC, holdPeriodS }) => holdDropC < WANDERS_C || holdPeriodS < WANDERS_S,
  what: 'would raise false alarms while it holds',
  why: ({ holdDropC, holdPeriodS }) =>
    `It acts once the reading is ${holdDropC} °C below its target for ${holdPeriodS} s: an opened door or a fan does that.`,
  suits: 'longer',
};

const LATE_WARMING: Misfit = {
  time: 'rise-time',
  degrees: 'rise',
  is: ({ warmedC, targetC }) => warmedC > targetC + GUARD_OVERSHOOT_C,
  what: 'would act too late while it warms',
  why: ({ targetC, warmedC, watchPeriodS }) =>
    `If the sensor slips out just below ${targetC} °C, the heater stays full on for ${watchPeriodS} s and comes to ${Math.round(warmedC)} °C.`,
  suits: 'shorter',
};

const LATE: Misfit = {
  time: 'drop-time',
  degrees: 'drop',
  is: ({ verdict }) => verdict.holdVerdict === 'late',
  what: 'would act too late',
  why: ({ targetC, verdict: { holdTripS } }) =>
    `If the sensor slips out at ${targetC} °C, the heater stays full on ${holdTripS === null ? 'without end' : `for ${Math.round(holdTripS)} s`} and passes ${targetC + GUARD_OVERSHOOT_C} °C.`,
  suits: 'shorter',
};

/** The nearest time that suits. */
function timeRemedy(facts: Facts, settings: Settings, { key: of, body }: Guard, misfit: Misfit): Remedy[] {
  const key = `guard.${of}.${misfit.time}`;
  const s = nearestTime(facts, settings, { by: of, window: misfit.time, going: misfit.suits }, (time) => {
    const guard = guardOf(facts, settings, body, { [misfit.time]: time });
    return guard !== undefined && !misfit.is(guard);
  });
  if (s === undefined) return [];
  const because = `${numberOf(settings, key)} s do not suit its heater`;
  return [{ label: `Make it ${s} s`, edits: [overrideEdit(key, s, because)] }];
}

const misfits =
  (...ways: Misfit[]) =>
  (facts: Facts, settings: Settings): Spoken[] =>
    guardsOf(facts, settings)
      .flatMap((guard) => ways.filter(({ is }) => is(guard)).map((misfit) => ({ guard, misfit })))
      .map(({ guard, misfit }) => {
        const [time, degrees] = [`guard.${guard.key}.${misfit.time}`, `guard.${guard.key}.${misfit.degrees}`];
        return {
          subject: aboutSetting(time),
          what: `The guard of the ${bodyCalled(guard.body)} ${misfit.what}.`,
          why: misfit.why(guard),
          evidence: [asSet(settings, degrees, '°C'), asSet(settings, time, 's'), guard.evidence],
          remedies: [
            ...resetRemedy(settings, time),
            ...resetRemedy(settings, degrees),
            ...timeRemedy(facts, settings, guard, misfit),
          ],
        };
      });

/** Not known is not fine: a heater that nobody described has a guard that nobody could judge. */
function unjudged(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const heater = partFor(facts, 'heater', body);
    const of = heatKey(body);
    if (!heater || heater.type.body || settings.get(`guard.${of}`)?.value !== true) return [];
    const key = `guard.${of}.rise-time`;
    return [
      {
        subject: aboutSetting(key),
        what: `Whether its guard suits the ${bodyCalled(body)} is not known.`,
        why: `Nobody has described how ${heater.type.name} warms.${TUNED.some((one) => one === body) ? ' Tune its PID at Calibrate: it measures that, and says which times suit; then describe the part with it.' : ''}`,
        evidence: [
          `${heater.id}: no curve of how it warms`,
          asSet(settings, key, 's'),
          asSet(settings, `guard.${of}.drop-time`, 's'),
        ],
        remedies: [],
      },
    ];
  });
}

/** Whether the guards' windows suit the heaters they watch. */
export const guardWindowChecks: Check[] = [
  { id: 'heat.guard-trips', severity: 'mend', run: misfits(TRIPS, NERVOUS) },
  { id: 'heat.guard-late', severity: 'mend', run: misfits(LATE, LATE_WARMING) },
  { id: 'heat.guard-unjudged', severity: 'question', run: unjudged },
];
