import { headerOf } from '../board/contacts';
import type { SupplySource } from '../board/net';
import { type PlacedLead, placedLeads } from '../circuit/pinTable';
import { parseContact } from '../circuit/leadOrder';
import { besideRibbon, hasAdapter, isReversed } from '../circuit/loads';
import type { Spoken } from '../finding/finding';
import { MAIN_SUPPLY } from '../harness/purposes';
import type { Facts } from '../machine/facts';
import type { Check } from './check';

const RAILS: Record<SupplySource, string> = { '3v3': '3.3 V', '5v': '5 V', '12v': '12 V', vin: 'main' };
const sourceInWords = (source: SupplySource): string => `the ${RAILS[source]} supply`;

/** What a contact is, as it stands in a sentence. */
function netInWords({ net }: PlacedLead): string {
  if (net.kind === 'supply') return sourceInWords(net.source);
  if (net.kind === 'gnd') return 'ground';
  if (net.kind === 'sig') return `a signal, p${net.pin}`;
  if (net.kind === 'sw') return `a switched output, p${net.pin}`;
  return net.kind === 'none' ? 'connected to nothing' : 'not known yet';
}

/** Ground leads that do not meet ground, and supply leads that meet no supply; both at once are a part reversed. */
function wrongNet(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap((lead): Spoken[] => {
    const { part, role, contact, net } = lead;
    const wants = role === 'ground' ? 'gnd' : role === 'supply' ? 'supply' : undefined;
    if (wants === undefined || net.kind === wants ) return [];
    if (part.landing && 'leads' in part.landing && isReversed(facts.board, part.landing)) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `The ${role} lead of ${part.id} is on ${contact}, which is ${netInWords(lead)}.`,
        why: role === 'ground' && net.kind === 'supply'
          ? 'The full voltage reaches the part and, through it, the chip: a pin or the whole board burns. Move it to a ground.'
          : `It needs ${role === 'ground' ? 'a ground' : 'a supply'}: without one the part does not work, and what it meets instead may not stand it.`,
        evidence: [`${part.id} ${role} on ${contact}`, `${facts.board.name} rev ${facts.board.revision}: ${contact} is ${netInWords(lead)}`],
      },
    ];
  });
} // prettier-ignore

/** Heaters want the supply's own volts: a rail of the board feeds chips. */
function heaterOnRail(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap(({ part, role, contact, net }): Spoken[] => {
    if (part.type.kind !== 'heater' || role !== 'supply') return [];
    if (net.kind !== 'supply' || net.source === 'vin' || part.type.supply_v !== undefined) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `${part.id} would be fed from ${sourceInWords(net.source)} of the board.`,
        why: 'It feeds chips: a heater pulls it down, and hardly warms. Feed it from the main supply.',
        evidence: [`${part.id} supply on ${contact}`, part.type.name],
      },
    ];
  });
}

/** One contact takes one crimp; two wires in it want a splice. Where the supply comes in are screws. */
function contactTwice(facts: Facts): Spoken[] {
  const whole = placedLeads(facts).filter(
    ({ part, role, contact }) =>
      !hasAdapter(part, 'splice', role) &&
      headerOf(facts.board, contact)?.for !== MAIN_SUPPLY &&
      !(part.landing && 'leads' in part.landing && besideRibbon(part.landing) === parseContact(contact).header),
  );
  const contacts = new Set(whole.map(({ contact }) => contact));
  return [...contacts].flatMap((contact): Spoken[] => {
    const leads = whole.filter((lead) => lead.contact === contact);
    const [first, second] = leads;
    if (!first || !second || first.part.id === second.part.id) return [];
    return [
      {
        subject: { kind: 'part', id: second.part.id },
        what: `${contact} would hold the ${first.role} lead of ${first.part.id} and the ${second.role} lead of ${second.part.id}.`,
        why: 'One contact takes one crimp. Splice the two, or give one of them another contact.',
        evidence: leads.map(({ part, role }) => `${part.id} ${role} on ${contact}`),
      },
    ];
  });
} // prettier-ignore

/** Whether leads without a pin of their own meet what they need. */
export const contactChecks: Check[] = [
  { id: 'supply.wrong-net', severity: 'stop', run: wrongNet },
  { id: 'supply.heater-on-rail', severity: 'stop', run: heaterOnRail },
  { id: 'plug.contact-twice', severity: 'mend', run: contactTwice },
];
