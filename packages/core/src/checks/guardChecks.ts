import { TOLERANCE } from '../calculation/calculation';
import { headerLoads } from '../harness/electricity';
import { type Facts, partFor } from '../machine/facts';
import type { Landing } from '../machine/landing';
import { HEATED, WARMED } from '../machine/machine';
import { isMains } from '../parts/part';
import { heatKey } from '../settings/heatKey';
import { likelySensors } from '../heat/likelySensors';
import { bodyCalled } from '../machine/bodyCalled';
import { sensorInput, thermistorsOf } from '../settings/sensorInput';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import { guardWindowChecks } from './guardWindowChecks';
import type { Remedy, Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

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
      entry.readsC.every(
        (c, index) => c !== null && Math.abs(c - (usable[index]?.known_c ?? NaN)) <= PLAUSIBLE_C,
      );
    const now = ranked.find(({ id }) => id === chosen);
    if (!now || plausible(now)) return [];
    const fit = ranked.filter(plausible).map(({ id }) => id);
    const index = facts.machine.parts.findIndex(({ id }) => id === partFor(facts, 'thermistor', body)?.id);
    return [
      {
        subject: aboutSetting(key),
        what: `${String(chosen)} does not explain what the ${bodyCalled(body)} sensor reads.`,
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

const aboutPart = (id: string) => ({ kind: 'part' as const, id });
const HOW_MAINS =
  'Its wires go to the contacts of a relay, on the mains side: local codes, a qualified electrician, earth to the frame and to what it heats, a thermal cut-out on what it heats. Only the input of the relay meets the board.';

function mainsOnTerminal(facts: Facts): Spoken[] {
  return facts.parts.flatMap(({ id, type, role, landing }): Spoken[] => {
    if (type.kind !== 'heater' || !isMains(type)) return [];
    if (landing)
      return [
        {
          subject: aboutPart(id),
          what: `${id} runs on ${type.volts} V mains and is led to a terminal of the board.`,
          why: `Mains on a board kills whoever touches it, and the board. ${HOW_MAINS}`,
          evidence: [
            type.name,
            `led to ${'leads' in landing ? Object.values(landing.leads).join(', ') : landing.socket}`,
          ],
          remedies: relayRemedies(facts, role, id, landing),
        },
      ];
    if (facts.parts.some((part) => part.type.kind === 'relay' && part.role === role)) return [];
    return [
      {
        subject: aboutPart(id),
        what: `${id} runs on ${type.volts} V mains, and no relay switches it.`,
        why: `The board cannot. Add a relay or contactor: Survey, Another heater, asks for one. ${HOW_MAINS}`,
        evidence: [type.name, `no relay for the ${role}`],
      },
    ];
  });
}

/** The heater leaves the board, and a relay that carries it takes its place there. */
function relayRemedies(facts: Facts, role: string, id: string, landing: Landing): Remedy[] {
  const off = { path: ['harness', id] };
  if (facts.parts.some((part) => part.type.kind === 'relay' && part.role === role))
    return [{ label: 'Take it off the board', edits: [off] }];
  const heater = partFor(facts, 'heater', role)?.type;
  if (!heater) return [];
  return facts.catalogue.parts
    .filter((type) => type.kind === 'relay' && type.switches.amps_a >= heater.watts / heater.volts)
    .map((type) => ({
      label: `Put a ${type.name.replace(/,.*/, '')} in between`,
      edits: [
        off,
        { path: ['parts', facts.machine.parts.length], value: { id: `${role}-relay`, part: type.id, role } },
        { path: ['harness', `${role}-relay`], value: landing },
      ],
    }));
}

/** A relay must carry its heater. */
function overRelay(facts: Facts): Spoken[] {
  return facts.parts.flatMap(({ id, type, role }) => {
    const heater = partFor(facts, 'heater', role)?.type;
    if (type.kind !== 'relay' || !heater) return [];
    const amps = heater.watts / heater.volts;
    if (heater.volts <= type.switches.volts_v && amps <= type.switches.amps_a) return [];
    return [
      {
        subject: aboutPart(id),
        what: `${heater.name} draws ${amps.toFixed(1)} A at ${heater.volts} V; ${type.name} may switch ${type.switches.amps_a} A at ${type.switches.volts_v} V.`,
        why: 'Its contacts burn or weld, and the heater stays on. Take a larger relay.',
        evidence: [heater.name, type.name],
      },
    ];
  });
}

function mains(facts: Facts): Spoken[] {
  return facts.parts.flatMap(({ id, type }) =>
    isMains(type)
      ? [
          {
            subject: aboutPart(id),
            what: `${id} runs on mains.`,
            why: `Mains can kill. ${HOW_MAINS}`,
            evidence: [type.name],
          },
        ]
      : [],
  );
}

/** A slow switch is asked to switch faster than it stands. */
function fastCycle(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body) => {
    const relay = partFor(facts, 'relay', body)?.type;
    const key = `heat.${heatKey(body)}.cycle`;
    const cycle = numberOf(settings, key);
    if (!relay || cycle >= relay.cycle_s - TOLERANCE) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `${relay.name} would be switched once in ${cycle} s; it stands once in ${relay.cycle_s} s.`,
        why: 'Contacts switched too often weld shut, and the heater stays on.',
        evidence: [asSet(settings, key, 's'), `${relay.name}: ${relay.cycle_s} s`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

function targetOverMax(facts: Facts, settings: Settings): Spoken[] {
  return ['one', 'two'].flatMap((preset) =>
    HEATED.filter((body) => partFor(facts, 'heater', body)).flatMap((body) => {
      const key = `preset.${preset}.${body}`;
      const [target, max] = [numberOf(settings, key), numberOf(settings, `heat.${body}.max`)];
      if (target <= max + TOLERANCE) return [];
      return [
        {
          subject: aboutSetting(key),
          what: `Preheat ${preset} asks the ${bodyCalled(body)} for ${target} °C; it may reach ${max} °C.`,
          why: 'The firmware refuses it, and the heater stays cold.',
          evidence: [asSet(settings, key, '°C'), asSet(settings, `heat.${body}.max`, '°C')],
          remedies: resetRemedy(settings, key),
        },
      ];
    }),
  );
}

export const guardChecks: Check[] = [
  { id: 'heat.mains-on-terminal', severity: 'stop', run: mainsOnTerminal },
  { id: 'heat.bed-over-output', severity: 'stop', run: bedOverOutput },
  { id: 'heat.over-relay', severity: 'stop', run: overRelay },
  { id: 'heat.cycle-fast', severity: 'mend', run: fastCycle },
  { id: 'heat.target-over-max', severity: 'mend', run: targetOverMax },
  ...guardWindowChecks,
  { id: 'heat.sensor-type', severity: 'mend', run: sensorType },
  { id: 'heat.mains', severity: 'note', run: mains },
];
