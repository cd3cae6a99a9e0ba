import { pinGroup } from '../board/chip';
import { type PlacedLead, placedLeads } from '../circuit/pinTable';
import type { Facts } from '../machine/facts';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

const onPins = (facts: Facts) =>
  placedLeads(facts).filter((lead): lead is PlacedLead & { net: { pin: number } } => 'pin' in lead.net);

function usedTwice(facts: Facts): Spoken[] {
  const byPin = new Map<number, PlacedLead[]>();
  for (const lead of onPins(facts)) byPin.set(lead.net.pin, [...(byPin.get(lead.net.pin) ?? []), lead]);
  return [...byPin]
    .filter(([, leads]) => leads.length > 1)
    .map(([pin, leads]) => ({
      subject: { kind: 'pin', id: `p${pin}` },
      what: `Pin p${pin} serves ${leads.map((lead) => lead.part.id).join(' and ')}.`,
      why: 'One chip pin can serve one part; the two would fight.',
      evidence: leads.map((lead) => `${lead.part.id} ${lead.role} on ${lead.contact}`),
    }));
}

const NO_PIN = { gnd: 'ground', supply: 'a supply', none: 'connected to nothing', unknown: 'not known yet' };

function capability(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap(({ part, role, needs, contact, net }) => {
    if (needs === undefined) return [];
    if (needs === 'sw')
      return net.kind === 'sw'
        ? []
        : [cannot(part.id, role, contact, 'is no switched output', 'a switched output')];
    if (!('pin' in net))
      return [cannot(part.id, role, contact, `is ${NO_PIN[net.kind]}, not a chip pin`, needs)];
    // What such a contact brings is the transistor behind the pin, not the pin.
    if (net.kind === 'sw') return [cannot(part.id, role, contact, 'is a switched output, no signal', needs)];
    const can = pinGroup(facts.chip, net.pin)?.can ?? [];
    return can.includes(needs)
      ? []
      : [
          cannot(
            part.id,
            role,
            contact,
            `reaches p${net.pin}, which can do ${can.join(', ') || 'nothing'}`,
            needs,
          ),
        ];
  });
}

function cannot(part: string, role: string, contact: string, is: string, needs: string): Spoken {
  return {
    subject: { kind: 'part', id: part },
    what: `The ${role} lead of ${part} sits on a contact that cannot serve it.`,
    why: `It needs ${needs}; ${contact} ${is}.`,
    evidence: [`${part} ${role} on ${contact}`, `needs ${needs}`],
  };
}

export const pinChecks: Check[] = [
  { id: 'pins.used-twice', severity: 'stop', run: usedTwice },
  { id: 'pins.capability', severity: 'stop', run: capability },
];
