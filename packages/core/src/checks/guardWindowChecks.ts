import type { Remedy, Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import { TUNED } from '../calibration/tuned';
import { guardCheck, GUARD_OVERSHOOT_C } from '../heat/guardCheck';
import { overrideEdit } from '../machine/edit';
import { type Facts, partFor } from '../machine/facts';
import { WARMED, type Warmed } from '../machine/machine';
import { bodyCalled } from '../machine/bodyCalled';
import { nearestTime, type TimeWindow } from '../settings/guardWindow';
import { heatedBy } from '../settings/heatedBy';
import { heaterCurve } from '../settings/heaterCurve';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';

type Guarded = ReturnType<typeof heatedBy>;
type Window = TimeWindow | 'rise' | 'drop';
interface Guard {
  by: Guarded;
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
  const by = heatedBy(body);
  const targetC = numberOf(settings, `heat.${by}.max`);
  if (!curve || settings.get(`guard.${by}`)?.value !== true || targetC <= curve.ambientC) return undefined;
  const window = (key: Window) => other[key] ?? numberOf(settings, `guard.${by}.${key}`);
  const windows = {
    watchRiseC: window('rise'),
    watchPeriodS: window('rise-time'),
    holdDropC: window('drop'),
    holdPeriodS: window('drop-time'),
  };
  const { gainC, tauS, deadS } = curve;
  return {
    by,
    body,
    targetC,
    ...windows,
    verdict: guardCheck.ofChecked({ ...curve, targetC, ...windows }),
    evidence: `${partFor(facts, 'heater', body)?.id} warms by ${Math.round(gainC)} °C at full power, ${tauS} s, ${deadS} s late`,
  };
}

const guardsOf = (facts: Facts, settings: Settings, other?: Partial<Record<Window, number>>): Guard[] =>
  WARMED.flatMap((body) => guardOf(facts, settings, body, other) ?? []);

const tooTight = ({ verdict }: Guard): boolean => verdict.falseTripWarm;
const tooLate = ({ verdict }: Guard): boolean => verdict.holdVerdict === 'late';

/** The nearest time that suits every body the guard watches. */
function timeRemedy(
  facts: Facts,
  settings: Settings,
  { by }: Guard,
  window: TimeWindow,
  wrong: (guard: Guard) => boolean,
): Remedy[] {
  const key = `guard.${by}.${window}`;
  const s = nearestTime(facts, settings, by, window, (time) =>
    guardsOf(facts, settings, { [window]: time }).every((guard) => guard.by !== by || !wrong(guard)),
  );
  if (s === undefined) return [];
  const because = `${numberOf(settings, key)} s do not suit every heater it watches`;
  return [{ label: `Make it ${s} s`, edits: [overrideEdit(key, s, because)] }];
}

function trips(facts: Facts, settings: Settings): Spoken[] {
  return guardsOf(facts, settings)
    .filter(tooTight)
    .map((guard) => {
      const key = `guard.${guard.by}.rise-time`;
      return {
        subject: aboutSetting(key),
        what: `The guard of the ${bodyCalled(guard.body)} would raise false alarms while it warms.`,
        why: `Near ${guard.targetC} °C it rises ${guard.verdict.warmRiseC.toFixed(1)} °C in ${guard.watchPeriodS} s; the guard waits for ${guard.watchRiseC} °C.`,
        evidence: [
          asSet(settings, `guard.${guard.by}.rise`, '°C'),
          asSet(settings, key, 's'),
          guard.evidence,
        ],
        remedies: [
          ...resetRemedy(settings, key),
          ...resetRemedy(settings, `guard.${guard.by}.rise`),
          ...timeRemedy(facts, settings, guard, 'rise-time', tooTight),
        ],
      };
    });
}

function late(facts: Facts, settings: Settings): Spoken[] {
  return guardsOf(facts, settings)
    .filter(tooLate)
    .map((guard) => {
      const key = `guard.${guard.by}.drop-time`;
      const { holdTripS } = guard.verdict;
      return {
        subject: aboutSetting(key),
        what: `The guard of the ${bodyCalled(guard.body)} would act too late.`,
        why: `If the sensor slips out at ${guard.targetC} °C, the heater stays full on ${holdTripS === null ? 'without end' : `for ${Math.round(holdTripS)} s`} and passes ${guard.targetC + GUARD_OVERSHOOT_C} °C.`,
        evidence: [
          asSet(settings, `guard.${guard.by}.drop`, '°C'),
          asSet(settings, key, 's'),
          guard.evidence,
        ],
        remedies: [
          ...resetRemedy(settings, key),
          ...resetRemedy(settings, `guard.${guard.by}.drop`),
          ...timeRemedy(facts, settings, guard, 'drop-time', tooLate),
        ],
      };
    });
}

/** Not known is not fine: a heater that nobody described has a guard that nobody could judge. */
function unjudged(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const heater = partFor(facts, 'heater', body);
    const by = heatedBy(body);
    if (!heater || heater.type.body || settings.get(`guard.${by}`)?.value !== true) return [];
    const key = `guard.${by}.rise-time`;
    return [
      {
        subject: aboutSetting(key),
        what: `Whether its guard suits the ${bodyCalled(body)} is not known.`,
        why: `Nobody has described how ${heater.type.name} warms.${TUNED.some((one) => one === body) ? ' Tune its PID at Calibrate: it measures that, and says which times suit; then describe the part with it.' : ''}`,
        evidence: [
          `${heater.id}: no curve of how it warms`,
          asSet(settings, key, 's'),
          asSet(settings, `guard.${by}.drop-time`, 's'),
        ],
        remedies: [],
      },
    ];
  });
}

/** Whether the guards' windows suit the heaters they watch. */
export const guardWindowChecks: Check[] = [
  { id: 'heat.guard-trips', severity: 'mend', run: trips },
  { id: 'heat.guard-late', severity: 'mend', run: late },
  { id: 'heat.guard-unjudged', severity: 'question', run: unjudged },
];
