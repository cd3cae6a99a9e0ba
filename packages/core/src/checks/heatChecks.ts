import { bodyCalled } from '../machine/bodyCalled';
import { overrideEdit, resetEdit } from '../machine/edit';
import { type Facts, partFor } from '../machine/facts';
import { WARMED } from '../machine/machine';
import { guardKey, guardsOff } from '../settings/guardsOff';
import { heatKey } from '../settings/heatKey';
import { HEADROOM_C } from '../settings/derivations';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

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
  { id: 'heat.min-off', severity: 'mend', run: minOff },
];
