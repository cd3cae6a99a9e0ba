import type { Remedy, Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import { TUNED } from '../calibration/tuned';
import { guardCheck, GUARD_OVERSHOOT_C } from '../heat/guardCheck';
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
  verdict: ReturnType<typeof guardCheck>;
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
}

const TRIPS: Misfit = {
  time: 'rise-time',
  degrees: 'rise',
  is: ({ verdict }) => verdict.falseTripWarm,
  what: 'would raise false alarms while it warms',
  why: ({ targetC, verdict, watchPeriodS, watchRiseC }) =>
    `Near ${targetC} °C it rises ${verdict.warmRiseC.toFixed(1)} °C in ${watchPeriodS} s; the guard waits for ${watchRiseC} °C.`,
};

const LATE: Misfit = {
  time: 'drop-time',
  degrees: 'drop',
  is: ({ verdict }) => verdict.holdVerdict === 'late',
  what: 'would act too late',
  why: ({ targetC, verdict: { holdTripS } }) =>
    `If the sensor slips out at ${targetC} °C, the heater stays full on ${holdTripS === null ? 'without end' : `for ${Math.round(holdTripS)} s`} and passes ${targetC + GUARD_OVERSHOOT_C} °C.`,
};

/** The nearest time that suits. */
function timeRemedy(facts: Facts, settings: Settings, { key: of, body }: Guard, misfit: Misfit): Remedy[] {
  const key = `guard.${of}.${misfit.time}`;
  const s = nearestTime(facts, settings, of, misfit.time, (time) => {
    const guard = guardOf(facts, settings, body, { [misfit.time]: time });
    return guard !== undefined && !misfit.is(guard);
  });
  if (s === undefined) return [];
  const because = `${numberOf(settings, key)} s do not suit its heater`;
  return [{ label: `Make it ${s} s`, edits: [overrideEdit(key, s, because)] }];
}

const misfits =
  (misfit: Misfit) =>
  (facts: Facts, settings: Settings): Spoken[] =>
    guardsOf(facts, settings)
      .filter(misfit.is)
      .map((guard) => {
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
  { id: 'heat.guard-trips', severity: 'mend', run: misfits(TRIPS) },
  { id: 'heat.guard-late', severity: 'mend', run: misfits(LATE) },
  { id: 'heat.guard-unjudged', severity: 'question', run: unjudged },
];
