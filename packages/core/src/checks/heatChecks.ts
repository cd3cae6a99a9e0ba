import { bodyCalled } from '../machine/bodyCalled';
import { overrideEdit, resetEdit } from '../machine/edit';
import { type Facts, partFor } from '../machine/facts';
import { WARMED } from '../machine/machine';
import { guardKey, guardsOff } from '../settings/guardsOff';
import { heaterCurve } from '../settings/heaterCurve';
import { heatKey } from '../settings/heatKey';
import { HEADROOM_C } from '../settings/derivations';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

function guardOff(facts: Facts, settings: Settings): Spoken[] {
  return guardsOff(facts, settings).map((body) => {
    const key = guardKey(body);
    return {
      subject: { kind: 'setting', id: key } as const,
      what: `The thermal guard of the ${bodyCalled(body)} is off.`,
      why: 'If its sensor slips out, the heater stays on until something burns. Nothing is built like this.',
      evidence: [`${key}: off`, `${partFor(facts, 'heater', body)?.id ?? 'its heater'} exists`],
      remedies: [{ label: 'Switch the guard on', edits: [resetEdit(key)] }],
    };
  });
}

function guardWithoutHeater(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const key = guardKey(body);
    if (partFor(facts, 'heater', body) || settings.get(key)?.value !== true) return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `The ${bodyCalled(body)} is guarded but has no heater.`,
        why: 'The guard would raise false alarms over a body that never warms.',
        evidence: [`${key}: on`, 'no such heater among the parts'],
        remedies: [{ label: 'Switch this guard off', edits: [resetEdit(key)] }],
      },
    ];
  });
}

/** Findings for every body whose highest temperature is above what one of its parts stands. */
function maxOver(kind: 'thermistor' | 'heater', whatBreaks: string) {
  return (facts: Facts, settings: Settings): Spoken[] =>
    WARMED.flatMap((body) => {
      const part = partFor(facts, kind, body);
      const key = `heat.${heatKey(body)}.max`;
      const max = numberOf(settings, key);
      if (!part || max <= part.type.max_c) return [];
      return [
        {
          subject: { kind: 'setting', id: key } as const,
          what: `The ${bodyCalled(body)} may be set to ${max} °C; ${part.type.name} stands ${part.type.max_c} °C.`,
          why: whatBreaks,
          evidence: [`${key}: ${max} °C`, `${part.type.name}: ${part.type.max_c} °C`],
          remedies: [
            {
              label: `Limit it to ${part.type.max_c - HEADROOM_C} °C`,
              edits: [
                overrideEdit(
                  key,
                  part.type.max_c - HEADROOM_C,
                  `${part.type.name} stands ${part.type.max_c} °C`,
                ),
              ],
            },
          ],
        },
      ];
    });
}

function minOff(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const key = `heat.${heatKey(body)}.min`;
    if (!partFor(facts, 'heater', body) || numberOf(settings, key) > -10) return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `The lowest temperature of the ${bodyCalled(body)} is set so low that an open sensor passes.`,
        why: 'A broken sensor reads far below zero; the limit is there to notice it.',
        evidence: [`${key}: ${numberOf(settings, key)} °C`],
        remedies: [{ label: 'Use 5 °C', edits: [resetEdit(key)] }],
      },
    ];
  });
}

/** Workshops are no warmer than this on a winter's morning, °C. */
const COLD_ROOM_C = 12;

/** A limit against broken sensors that a sound one in a cold room falls below. */
function minHigh(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const key = `heat.${heatKey(body)}.min`;
    const least = numberOf(settings, key);
    if (!partFor(facts, 'heater', body) || least <= COLD_ROOM_C) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `Below ${least} °C the ${bodyCalled(body)} counts as broken.`,
        why: 'A cold machine in a cold room reads less: it raises an alarm and does not heat.',
        evidence: [asSet(settings, key, '°C')],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

/** A body may swing so far with the switching of its heater, °C. */
const MOST_SWING_C = 5;

/** A heater that is full on for so long at a time that its body swings about the target. */
function slowCycle(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const curve = heaterCurve(facts, settings, body);
    const key = `heat.${heatKey(body)}.cycle`;
    const cycle = numberOf(settings, key);
    // Half a cycle full on, from where half the power holds it.
    const swings = curve && (curve.gainC / 2) * (1 - Math.exp(-cycle / 2 / curve.tauS));
    if (swings === undefined || swings <= MOST_SWING_C) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `The ${bodyCalled(body)} is switched once in ${cycle} s, and swings by some ${Math.round(swings)} °C with it.`,
        why: 'Layers differ, and the guard may take the swing for a loose sensor. Only a relay with contacts needs a slow cycle.',
        evidence: [asSet(settings, key, 's'), `warms by ${Math.round(curve?.gainC ?? 0)} °C at full power, ${curve?.tauS ?? 0} s`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
} // prettier-ignore

const WITHOUT = {
  p: 'It answers to no distance from the target: it warms by its I alone, runs over, and the guard may stop it.',
  i: 'It settles below its target: what waits for the temperature waits for hours, or the guard stops it.',
} as const;

/** A control that has nothing to act with, or nothing to hold with. */
function pidNothing(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const of = heatKey(body);
    if (!partFor(facts, 'heater', body) || settings.get(`control.${of}`)?.value !== 'pid') return [];
    return (['p', 'i'] as const).flatMap((letter) => {
      const key = `pid.${of}.${letter}`;
      if (settings.get(key)?.value !== 0) return [];
      return [
        {
          subject: aboutSetting(key),
          what: `PID of the ${bodyCalled(body)} has ${letter === 'p' ? 'a P' : 'an I'} of 0.`,
          why: `${WITHOUT[letter]} Tune it at Calibrate.`,
          evidence: ['p', 'i', 'd'].map((each) => asSet(settings, `pid.${of}.${each}`)),
          remedies: resetRemedy(settings, key),
        },
      ];
    });
  });
}

/** The control steers within so far of its target, and full heat is so much duty. */
const [BAND_C, FULL] = [10, 255];

/**
 * A D that takes back more than full heat and P give where the control begins to steer. On the bench hot ends came to
 * 200 °C in four minutes at most below it, and in seven minutes or never above.
 */
function pidHoldsBack(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const of = heatKey(body);
    const curve = heaterCurve(facts, settings, body);
    if (!curve || settings.get(`control.${of}`)?.value !== 'pid') return [];
    const target = numberOf(settings, of === 'bed' ? 'preset.one.bed' : 'preset.one.hotend');
    const rise = (curve.gainC + curve.ambientC - target) / curve.tauS;
    const [p, d] = [numberOf(settings, `pid.${of}.p`), numberOf(settings, `pid.${of}.d`)];
    if (d * rise <= FULL + BAND_C * p) return [];
    return [
      {
        subject: aboutSetting(`pid.${of}.d`),
        what: `PID of the ${bodyCalled(body)} has a D of ${d}: it takes back all the heat before ${target} °C.`,
        why: `There it warms by ${rise.toFixed(1)} °C a second at full heat; times D that is ${Math.round(d * rise)} of ${FULL}. It creeps for minutes, or never comes to its target. Tune it at Calibrate.`,
        evidence: ['p', 'i', 'd'].map((each) => asSet(settings, `pid.${of}.${each}`)),
        remedies: resetRemedy(settings, `pid.${of}.d`),
      },
    ];
  });
}

/**
 * W/cm² below which a plate in still air never comes to 100 °C: it loses some 0.001 W/cm² and °C to each side. Heaters made for
 * plates have 0.3 and more.
 */
const LEAST_DENSITY = 0.2;

/** A plate with a heater that is too small for it: mostly one that is made for something else. */
function bedWeak(facts: Facts): Spoken[] {
  const heater = partFor(facts, 'heater', 'bed');
  const { x, y } = facts.machine.frame.bed_mm;
  const area = ((x[1] - x[0]) * (y[1] - y[0])) / 100;
  if (!heater || heater.type.watts >= LEAST_DENSITY * area) return [];
  return [
    {
      subject: { kind: 'part', id: heater.id },
      what: `${heater.id} heats the plate with ${heater.type.watts} W, ${(heater.type.watts / area).toFixed(2)} W for each square centimetre.`,
      why: 'So little leaves a plate lukewarm, or warms it so slowly that the guard stops it. One that is small because it is made for a hot end burns where it touches. Say which heater it is.',
      evidence: [heater.type.name, `plate: ${Math.round(area)} cm²`, `a plate wants ${LEAST_DENSITY} W/cm² at least`],
    },
  ];
} // prettier-ignore

export const heatChecks: Check[] = [
  { id: 'heat.guard-off', severity: 'stop', run: guardOff },
  { id: 'heat.guard-without-heater', severity: 'mend', run: guardWithoutHeater },
  {
    id: 'heat.max-over-sensor',
    severity: 'stop',
    run: maxOver(
      'thermistor',
      'Above its limit the sensor drifts or dies, and the heater is no longer controlled.',
    ),
  },
  {
    id: 'heat.max-over-part',
    severity: 'stop',
    run: maxOver('heater', 'Above its limit the heater or the parts around it melt or give off fumes.'),
  },
  { id: 'heat.bed-weak', severity: 'mend', run: bedWeak },
  { id: 'heat.min-off', severity: 'mend', run: minOff },
  { id: 'heat.min-high', severity: 'mend', run: minHigh },
  { id: 'heat.cycle-slow', severity: 'mend', run: slowCycle },
  { id: 'heat.pid-nothing', severity: 'mend', run: pidNothing },
  { id: 'heat.pid-holds-back', severity: 'mend', run: pidHoldsBack },
];
