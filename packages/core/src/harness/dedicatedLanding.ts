import type { Board, Header } from '../board/board';
import { supplyVolts } from '../board/board';
import { type Chip, pinGroup } from '../board/chip';
import { parseNet } from '../board/net';
import type { Landing } from '../machine/machine';
import type { Lead, Part } from '../parts/part';
import { purposesOf } from './purposes';

/**
 * The landing on the header a board has for just this part, or undefined when there is none that is free and has
 * a contact for every lead. It takes nothing from any other part.
 */
export function dedicatedLanding(
  { board, chip, vin }: { board: Board; chip: Chip; vin: number },
  part: Part,
  role: string,
  taken: ReadonlySet<string>,
): Landing | undefined {
  const purposes = purposesOf(part.kind, role);
  for (const header of board.headers) {
    if (!purposes.includes(header.for ?? '')) continue;
    const leads = assign(header, part, chip, vin);
    if (leads && !Object.values(leads).some((contact) => taken.has(contact))) return { leads };
  }
  return undefined;
}

/** A contact of the header for every lead, hardest first; undefined when one has none. */
function assign(header: Header, part: Part, chip: Chip, vin: number): Record<string, string> | undefined {
  const leads: Record<string, string> = {};
  const used = new Set<number>();
  for (const lead of [...part.leads].sort((a, b) => hardness(b) - hardness(a))) {
    const index = header.contacts.findIndex(
      (contact, at) => !used.has(at) && serves(contact, lead, part, chip, vin),
    );
    if (index < 0) return undefined;
    used.add(index);
    leads[lead.role] = `${header.id}.${index + 1}`;
  }
  return Object.fromEntries(part.leads.map((lead) => [lead.role, leads[lead.role]!]));
}

const hardness = (lead: Lead) => (lead.needs === 'pwm' ? 2 : lead.needs === 'in' ? 0 : 1);

function serves(contact: string, lead: Lead, part: Part, chip: Chip, vin: number): boolean {
  const net = parseNet(contact);
  if (lead.role === 'ground') return net.kind === 'gnd';
  // A heater names its rated voltage only where it is bound to it; whatever feeds the board will do otherwise.
  if (lead.role === 'supply')
    return net.kind === 'supply' && supplyVolts(net.source, vin) === (part.supply_v ?? vin);
  if (lead.needs === 'sw') return net.kind === 'sw';
  if (net.kind !== 'sig') return false;
  return lead.needs === undefined || (pinGroup(chip, net.pin)?.can.includes(lead.needs as never) ?? false);
}
