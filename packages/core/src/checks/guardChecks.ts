import { headerLoads } from '../harness/electricity';
import { type Facts, partFor } from '../machine/facts';
import { HEATED, type Heated } from '../machine/machine';
import { atomsInWords, factAtoms, factInWords } from '../ripple/touched';
import { guardCheck, GUARD_OVERSHOOT_C } from '../settings/guardCheck';
import { heaterCurve } from '../settings/heaterCurve';
import { likelySensors } from '../settings/likelySensors';
import { sensorInput, thermistorsOf } from '../settings/sensorInput';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from './finding';
import { aboutSetting, asSet, resetRemedy } from './settingFinding';

const BODY = { hotend: 'hot end', bed: 'bed' };

/** The guard of a body against its heater; undefined where nothing is guarded or can reach the target. */
function guardOf(facts: Facts, settings: Settings, body: Heated) {
  const curve = heaterCurve(facts, settings, body);
  const targetC = numberOf(settings, `heat.${body}.max`);
  if (!curve || settings.get(`guard.${body}`)?.value !== true || targetC <= curve.ambientC) return undefined;
  const windows = {
    watchRiseC: numberOf(settings, `guard.${body}.rise`),
    watchPeriodS: numberOf(settings, `guard.${body}.rise-time`),
    holdDropC: numberOf(settings, `guard.${body}.drop`),
    holdPeriodS: numberOf(settings, `guard.${body}.drop-time`),
  };
  return { curve, targetC, ...windows, verdict: guardCheck.ofChecked({ ...curve, targetC, ...windows }) };
}

const curveInWords = ({ gainC, tauS, deadS }: { gainC: number; tauS: number; deadS: number }) =>
  `warms by ${Math.round(gainC)} °C at full power, ${tauS} s, ${deadS} s late`;

function trips(facts: Facts, settings: Settings): Spoken[] {
  return HEATED.flatMap((body) => {
    const guard = guardOf(facts, settings, body);
    if (!guard?.verdict.falseTripWarm) return [];
    const key = `guard.${body}.rise-time`;
    return [
      {
        subject: aboutSetting(key),
        what: `The guard of the ${BODY[body]} would raise false alarms while it warms.`,
        why: `Near ${guard.targetC} °C it rises ${guard.verdict.warmRiseC.toFixed(1)} °C in ${guard.watchPeriodS} s; the guard waits for ${guard.watchRiseC} °C.`,
        evidence: [
          asSet(settings, `guard.${body}.rise`, '°C'),
          asSet(settings, key, 's'),
          `${partFor(facts, 'heater', body)?.id} ${curveInWords(guard.curve)}`,
        ],
        remedies: [...resetRemedy(settings, key), ...resetRemedy(settings, `guard.${body}.rise`)],
      },
    ];
  });
}

function late(facts: Facts, settings: Settings): Spoken[] {
  return HEATED.flatMap((body) => {
    const guard = guardOf(facts, settings, body);
    if (guard?.verdict.holdVerdict !== 'late') return [];
    const key = `guard.${body}.drop-time`;
    const { holdTripS } = guard.verdict;
    return [
      {
        subject: aboutSetting(key),
        what: `The guard of the ${BODY[body]} would act too late.`,
        why: `If the sensor slips out at ${guard.targetC} °C, the heater stays full on ${holdTripS === null ? 'without end' : `for ${Math.round(holdTripS)} s`} and passes ${guard.targetC + GUARD_OVERSHOOT_C} °C.`,
        evidence: [
          asSet(settings, `guard.${body}.drop`, '°C'),
          asSet(settings, key, 's'),
          `${partFor(facts, 'heater', body)?.id} ${curveInWords(guard.curve)}`,
        ],
        remedies: [...resetRemedy(settings, key), ...resetRemedy(settings, `guard.${body}.drop`)],
      },
    ];
  });
}

/** A reading may be this far off the truth: thermometers and thermistors both err. */
const PLAUSIBLE_C = 8;

function sensorType(facts: Facts, settings: Settings): Spoken[] {
  return HEATED.flatMap((body) => {
    const readings = facts.machine.readings?.[body];
    const key = `sensor.${body}`;
    const chosen = settings.get(key)?.value;
    const full = 2 ** facts.chip.adc_bits - 1;
    const usable = (readings ?? []).filter(({ raw }) => raw <= full);
    if (usable.length === 0) return [];
    const { ranked } = likelySensors.ofChecked({
      ...sensorInput(facts, body),
      readings: usable.map(({ raw, known_c: knownC }) => ({ raw, knownC })),
      candidates: thermistorsOf(facts.catalogue),
    });
    const plausible = (entry: (typeof ranked)[number]) =>
      entry.readsC.every((c, index) => c !== null && Math.abs(c - usable[index]!.known_c) <= PLAUSIBLE_C);
    const now = ranked.find(({ id }) => id === chosen);
    if (!now || plausible(now)) return [];
    const fit = ranked.filter(plausible).map(({ id }) => id);
    const index = facts.machine.parts.findIndex(({ id }) => id === partFor(facts, 'thermistor', body)?.id);
    return [
      {
        subject: aboutSetting(key),
        what: `${String(chosen)} does not explain what the ${BODY[body]} sensor reads.`,
        why:
          fit.length > 0
            ? `${fit.join(' or ')} would. A wrong type makes every temperature wrong.`
            : 'No sensor in the catalogue would: look for a bad crimp, or a sensor on another input.',
        evidence: usable.map(({ raw, known_c: known }, at) => {
          const c = now.readsC[at];
          return `count ${raw} at ${known} °C: ${c == null ? 'off the scale' : `would read ${c.toFixed(1)} °C`}`;
        }),
        remedies:
          fit.length === 1 && index >= 0
            ? [
                {
                  label: `It is a ${fit[0]}`,
                  edits: [
                    { path: ['parts', index, 'part'], value: fit[0] },
                    ...(settings.get(key)?.hidden ? [{ path: ['settings', key] }] : []),
                  ],
                },
              ]
            : [],
      },
    ];
  });
}

function bedOverOutput(facts: Facts): Spoken[] {
  return headerLoads(facts).flatMap(({ header, parts, amps, max_a }) => {
    const bed = facts.parts.find(
      ({ id, type, role }) => parts.includes(id) && type.kind === 'heater' && role === 'bed',
    );
    if (!bed || amps <= max_a) return [];
    return [
      {
        subject: { kind: 'part', id: bed.id } as const,
        what: `${bed.id} draws ${amps.toFixed(1)} A; ${header} may give ${max_a} A.`,
        why: 'The output and its plug burn. Put an external power switch in between, steered by this output.',
        evidence: [bed.type.name, `${header}: at most ${max_a} A`],
      },
    ];
  });
}

function mains(facts: Facts): Spoken[] {
  return facts.parts.flatMap(({ id, type }) =>
    type.kind === 'heater' && type.volts > 60
      ? [
          {
            subject: { kind: 'part' as const, id },
            what: `${id} runs on mains.`,
            why: 'Mains can kill. Follow local codes and leave its wiring to a qualified electrician.',
            evidence: [type.name],
          },
        ]
      : [],
  );
}

function pidForeign(facts: Facts): Spoken[] {
  const now = factAtoms(facts);
  return Object.entries(facts.machine.settings).flatMap(([key, { measured_with: measured }]) => {
    if (!key.startsWith('pid.') || !measured) return [];
    const changed = Object.entries(measured).find(([fact, was]) => atomsInWords(now.get(fact)) !== was);
    if (!changed) return [];
    const [fact, was] = changed;
    return [
      {
        subject: aboutSetting(key),
        what: `${key} was measured with another state of ${factInWords(fact)}.`,
        why: 'PID belongs to heater, sensor, supply and board. Measure it again, or let the kit decide until then.',
        evidence: [`then: ${was}`, `now: ${atomsInWords(now.get(fact))}`],
        remedies: [{ label: 'Let the kit decide', edits: [{ path: ['settings', key] }] }],
      },
    ];
  });
}

export const guardChecks: Check[] = [
  { id: 'heat.bed-over-output', severity: 'stop', run: bedOverOutput },
  { id: 'heat.guard-trips', severity: 'mend', run: trips },
  { id: 'heat.guard-late', severity: 'mend', run: late },
  { id: 'heat.sensor-type', severity: 'mend', run: sensorType },
  { id: 'heat.pid-foreign', severity: 'mend', run: pidForeign },
  { id: 'heat.mains', severity: 'note', run: mains },
];
