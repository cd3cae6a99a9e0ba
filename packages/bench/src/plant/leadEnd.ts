import { contactNet } from '@jolly/core/board/contacts';
import { adapterOf, sourceAt } from '@jolly/core/circuit/loads';
import type { PlacedPart } from '@jolly/core/machine/facts';
import type { LeadLanding, LeadRole } from '@jolly/core/machine/landing';
import type { Live } from './live';
import { railVolts } from './railVolts';

/** What a lead really touches. */
export type LeadEnd =
  | { kind: 'rail'; volts: number }
  | { kind: 'pin'; pin: number }
  /** The low side that a pin switches. */
  | { kind: 'switched'; pin: number }
  | { kind: 'nothing' };

const NOTHING: LeadEnd = { kind: 'nothing' };

export function leadEnd(live: Live, part: PlacedPart, role: LeadRole): LeadEnd {
  const { facts } = live;
  const contact = live.leads.get(part.id)?.[role];
  const net = contact === undefined ? undefined : contactNet(facts.board, contact);
  if (contact === undefined || !net) return NOTHING;
  if (net.kind === 'gnd') return { kind: 'rail', volts: 0 };
  if (net.kind === 'sig') return { kind: 'pin', pin: net.pin };
  if (net.kind === 'none' || net.kind === 'unknown') return NOTHING;
  if (net.kind === 'sw') return { kind: 'switched', pin: net.pin };
  const landing = leadLanding(part);
  const converter = landing && role === 'supply' && adapterOf(landing, 'converter');
  if (converter) return { kind: 'rail', volts: live.supplyOff ? 0 : converter.volts_v };
  const source = sourceAt(facts.board, contact, facts.machine.jumpers ?? {});
  return { kind: 'rail', volts: source ? railVolts(live, source) : 0 };
}

/** Where a part's leads land one by one; undefined for what is plugged in whole. */
export const leadLanding = ({ landing }: PlacedPart): LeadLanding | undefined =>
  landing && 'leads' in landing ? landing : undefined;
