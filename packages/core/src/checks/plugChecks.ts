import { hearingOf, unheard } from '../settings/hearing';
import { isOn } from '../settings/understands';
import { contactNet, headerOf } from '../board/contacts';
import { budgetOf, shortLeads, wireLoads } from '../harness/electricity';
import { headersOf } from '../circuit/leadOrder';
import { hasAdapter, isReversed } from '../circuit/loads';
import type { Facts, PlacedPart } from '../machine/facts';
import type { LeadLanding } from '../machine/landing';
import type { Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { asSet, resetRemedy } from '../finding/settingFinding';

type OnHeader = PlacedPart & { landing: LeadLanding };
const onHeaders = (facts: Facts) =>
  facts.parts.filter((part): part is OnHeader => part.landing !== undefined && 'leads' in part.landing);
const aboutPart = (id: string) => ({ kind: 'part' as const, id });

function polarity(facts: Facts): Spoken[] {
  return onHeaders(facts).flatMap(({ id, landing }) => {
    const { supply, ground } = landing.leads;
    return isReversed(facts.board, landing)
      ? [
          {
            subject: aboutPart(id),
            what: `${id} is reversed: its supply lead is on ground and its ground lead on a supply.`,
            why: 'A reversed part dies at once. Exchange the two contacts in the shell.',
            evidence: [`supply on ${supply}`, `ground on ${ground}`],
            remedies: [
              {
                label: 'Exchange the two',
                edits: [
                  { path: ['harness', id, 'leads', 'supply'], value: ground },
                  { path: ['harness', id, 'leads', 'ground'], value: supply },
                ],
              },
            ],
          },
        ]
      : [];
  });
}

/** Parts that let current through from one lead to the other. */
const BRIDGES = new Set(['switch', 'thermistor']);

function short(facts: Facts): Spoken[] {
  return onHeaders(facts).flatMap(({ id, type, landing }) => {
    const plain =
      (BRIDGES.has(type.kind) && type.supply_v === undefined) ||
      (type.kind === 'filament-sensor' && type.output === 'switch');
    if (!plain) return [];
    const contacts = Object.values(landing.leads);
    const kinds = contacts.map((contact) => contactNet(facts.board, contact)?.kind);
    return kinds.includes('supply') && kinds.includes('gnd')
      ? [
          {
            subject: aboutPart(id),
            what: `${id} bridges a supply and ground when it closes.`,
            why: 'That is a short: the regulator or the copper burns. Put its two leads on signal and ground.',
            evidence: contacts.map(
              (contact) => `${contact}: ${contactNet(facts.board, contact)?.kind ?? 'nothing'}`,
            ),
          },
        ]
      : [];
  });
}

function budget(facts: Facts): Spoken[] {
  const { peakA, share, verdict, largest, otherVoltage } = budgetOf(facts);
  const { volts_v, amps_a } = facts.machine.supply;
  if (verdict === 'fine') return [];
  return [
    {
      subject: { kind: 'fact', id: 'supply' },
      severity: verdict === 'no' ? 'mend' : 'note',
      what: `All on at once, the supply gives ${peakA.toFixed(1)} A of ${amps_a} A.`,
      why:
        verdict === 'no'
          ? 'It shuts off or sags while heating. Use a stronger supply, or cap the heater that draws most.'
          : 'It is tight: a supply lives longest below four fifths of its rating.',
      evidence: [
        `${Math.round(share * 100)} % at ${volts_v} V`,
        `largest: ${largest}`,
        ...(otherVoltage.length > 0 ? [`rated for another voltage: ${otherVoltage.join(', ')}`] : []),
      ],
    },
  ];
}

/** The plug as it is crimped, against the header its leads are said to go to. */
function crimped(facts: Facts): {
  part: OnHeader;
  family: string;
  order: string[];
  header: string;
  wanted: string[];
  headerFamily: string;
}[] {
  return onHeaders(facts).flatMap((part) => {
    const plug = facts.machine.cables?.[part.id]?.plug;
    const [id] = headersOf(part.landing);
    const header = id === undefined ? undefined : headerOf(facts.board, `${id}.1`);
    if (!plug || !header) return [];
    const wanted = header.contacts.map(
      (_net, index) =>
        Object.entries(part.landing.leads).find(
          ([, contact]) => contact === `${header.id}.${index + 1}`,
        )?.[0] ?? '',
    );
    return [
      {
        part,
        family: plug.family,
        order: plug.order,
        header: header.id,
        wanted,
        headerFamily: header.family,
      },
    ];
  });
}

const inWords = (order: readonly string[]) =>
  order.map((role, index) => `${index + 1} ${role || 'empty'}`).join(', ');

function plugOrder(facts: Facts): Spoken[] {
  return crimped(facts)
    .filter(
      ({ order, wanted }) => order.length === wanted.length && order.some((role, at) => role !== wanted[at]),
    )
    .map(({ part, order, header, wanted }) => ({
      subject: aboutPart(part.id),
      what: `The plug of ${part.id} has its contacts in another order than ${header}.`,
      why: 'Plugged in as it is, a lead meets the wrong net. Re-seat the crimps in the shell first.',
      evidence: [`plug: ${inWords(order)}`, `${header}: ${inWords(wanted)}`],
      remedies: [
        {
          label: 'It is re-crimped',
          edits: [{ path: ['cables', part.id, 'plug', 'order'], value: wanted }],
        },
      ],
    }));
}

function plugFamily(facts: Facts): Spoken[] {
  return crimped(facts)
    .filter(
      ({ order, wanted, family, headerFamily }) => order.length !== wanted.length || family !== headerFamily,
    )
    .map(({ part, order, family, header, headerFamily, wanted }) => ({
      subject: aboutPart(part.id),
      what: `The plug of ${part.id} is ${family} with ${order.length} contacts; ${header} is ${headerFamily} with ${wanted.length}.`,
      why: 'It does not go in, or goes in one contact off. Change the shell.',
      evidence: [`plug: ${inWords(order)}`, `${header}: ${inWords(wanted)}`],
      remedies: [
        {
          label: 'It has the new shell',
          edits: [{ path: ['cables', part.id, 'plug'], value: { family: headerFamily, order: wanted } }],
        },
      ],
    }));
}

function gauge(facts: Facts): Spoken[] {
  return wireLoads(facts)
    .filter(({ check }) => check.verdict !== 'fine')
    .map(({ part, awg, length_mm, amps, check }) => ({
      subject: aboutPart(part),
      what: `The wire of ${part} is too thin: gauge ${awg} for ${amps.toFixed(1)} A.`,
      why:
        check.verdict === 'no'
          ? 'It gets hot enough to melt. Use a thicker wire before it is energised.'
          : 'It warms and takes voltage from the part. Use a thicker or shorter wire.',
      evidence: [
        `${check.densityAPerMm2.toFixed(1)} A/mm², warm above 6`,
        `drop ${check.dropPct.toFixed(1)} % over ${length_mm} mm, warm above 3 %`,
      ],
    }));
}

function reach(facts: Facts): Spoken[] {
  return shortLeads(facts).map(({ part, length_mm, needed_mm }) => ({
    subject: aboutPart(part),
    what: `The lead of ${part} is ${length_mm} mm long and needs ${needed_mm} mm.`,
    why: 'At full travel it pulls at its plug. Lengthen it, or choose a nearer place.',
    evidence: [`way of the cable at full travel, over the board, and slack: ${needed_mm} mm`],
  }));
}

function tooWeak(facts: Facts): Spoken[] {
  return onHeaders(facts).flatMap((part) =>
    part.type.leads.flatMap((lead) =>
      lead.high_from_v !== undefined &&
      lead.high_from_v > facts.chip.level_v &&
      !hasAdapter(part, 'shifter', lead.role)
        ? [
            {
              subject: aboutPart(part.id),
              what: `${part.id} reads high from ${lead.high_from_v} V; ${facts.chip.name} gives ${facts.chip.level_v} V.`,
              why: 'It misses commands, now and then or always. Put a level shifter in the lead.',
              evidence: [`${lead.role} on ${part.landing.leads[lead.role] ?? 'nothing'}`],
            },
          ]
        : [],
    ),
  );
}

function orphan(facts: Facts): Spoken[] {
  return Object.keys(facts.machine.cables ?? {})
    .filter((id) => !facts.parts.some((part) => part.id === id))
    .map((id) => ({
      subject: aboutPart(id),
      what: `A cable is noted for ${id}, and the machine has no such part.`,
      why: 'A loose lead touches what it should not. Take it out, or add the part it belongs to.',
      evidence: [`cables.${id}`],
      remedies: [{ label: 'The cable is out', edits: [{ path: ['cables', id] }] }],
    }));
}

/** Parts that are wired and whose feature is switched off. */
function idle(facts: Facts, settings: Settings): Spoken[] {
  return onHeaders(facts).flatMap((part): Spoken[] => {
    const by = hearingOf(facts, part)?.by;
    // What the kit leaves alone anyway has a finding of its own.
    if (by === undefined || unheard(facts, part) || isOn(settings, by)) return [];
    return [
      {
        subject: aboutPart(part.id),
        what: `${part.id} is connected, and its feature is off.`,
        why: 'Its place is taken by a part without work. Switch the feature on, or let the part serve elsewhere.',
        evidence: [part.type.name, asSet(settings, by)],
        remedies: resetRemedy(settings, by),
      },
    ];
  });
}

export const plugChecks: Check[] = [
  { id: 'supply.polarity', severity: 'stop', run: polarity },
  { id: 'supply.short', severity: 'stop', run: short },
  { id: 'supply.budget', severity: 'mend', run: budget },
  { id: 'plug.order', severity: 'stop', run: plugOrder },
  { id: 'plug.family', severity: 'mend', run: plugFamily },
  { id: 'wire.gauge', severity: 'mend', run: gauge },
  { id: 'wire.reach', severity: 'mend', run: reach },
  { id: 'level.too-weak', severity: 'mend', run: tooWeak },
  { id: 'harness.orphan', severity: 'mend', run: orphan },
  { id: 'harness.idle', severity: 'note', run: idle },
];
