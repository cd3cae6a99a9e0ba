import { contactNet } from '../board/contacts';
import type { Net } from '../board/net';
import { type Facts, heatSwitch, type PlacedPart, socketOf } from '../machine/facts';
import { csv } from '../text/csv';
import type { Lead } from '../parts/part';

/** One lead of a part with the contact it sits on and what that contact is connected to. */
export interface PlacedLead {
  part: PlacedPart;
  role: Lead['role'];
  needs: Lead['needs'];
  contact: string;
  net: Net;
}

/** A dozen rules ask for the leads of the same machine. */
const placed = new WeakMap<Facts, readonly PlacedLead[]>();

/** Every lead that is connected to a header, in the machine's order. */
export function placedLeads(facts: Facts): readonly PlacedLead[] {
  const known = placed.get(facts) ?? leadsPlacedIn(facts);
  placed.set(facts, known);
  return known;
}

function leadsPlacedIn(facts: Facts): PlacedLead[] {
  return facts.parts.flatMap((part) => {
    if (!part.landing || 'socket' in part.landing) return [];
    const { leads } = part.landing;
    return part.type.leads.flatMap((lead) => {
      const contact = leads[lead.role];
      const net = contact === undefined ? undefined : contactNet(facts.board, contact);
      return contact !== undefined && net ? [{ part, role: lead.role, needs: lead.needs, contact, net }] : [];
    });
  });
}

/** The chip pin a part's lead reaches, or undefined when it is not connected to one. */
export function pinOf(facts: Facts, part: PlacedPart | undefined, role: Lead['role']): number | undefined {
  if (!part?.landing || 'socket' in part.landing) return undefined;
  const contact = part.landing.leads[role];
  const net = contact === undefined ? undefined : contactNet(facts.board, contact);
  return net && 'pin' in net ? net.pin : undefined;
}

export interface PinRow {
  /** Preprocessor name in the generated files. */
  name: string;
  pin: number;
  /** The part it serves and how it gets there. */
  because: string;
  /** What the harness says, where the user decided otherwise. */
  computed?: number;
}

/** Which generated header each row belongs to; a moved lead recompiles only that header's readers. */
export type PinGroupName = 'motors' | 'switches' | 'heat' | 'probe';

/** The name of a row in the machine file: `PIN_X_SWITCH` is `x-switch`. */
export const pinKey = (name: string) => name.replace(/^PIN_/, '').toLowerCase().replaceAll('_', '-');

/**
 * The pin table: computed from the harness, with the user's own decisions over it. A pin of −1 means: nothing
 * connected.
 */
export function pinTable(facts: Facts): Record<PinGroupName, PinRow[]> {
  const own = facts.machine.pins ?? {};
  const decided = (row: PinRow): PinRow => {
    const override = own[pinKey(row.name)];
    return override ? { ...row, pin: override.pin, because: override.because, computed: row.pin } : row;
  };
  const computed = computedPins(facts);
  // One row for each key of the record it is made from.
  return Object.fromEntries(
    Object.entries(computed).map(([group, rows]) => [group, rows.map(decided)]),
  ) as Record<PinGroupName, PinRow[]>;
}

function computedPins(facts: Facts): Record<PinGroupName, PinRow[]> {
  const lead = (name: string, part: PlacedPart | undefined, role: Lead['role']): PinRow => {
    const pin = pinOf(facts, part, role);
    if (!part || pin === undefined || !part.landing || 'socket' in part.landing)
      return { name, pin: -1, because: 'nothing connected' };
    return { name, pin, because: `${part.id} ${role} on ${part.landing.leads[role]}` };
  };
  const by = (kind: string, role: string) =>
    facts.parts.find((part) => part.type.kind === kind && part.role === role);
  const probe = facts.parts.find((part) => part.type.kind === 'probe');
  return {
    motors: ['x', 'y', 'z', 'e'].flatMap((axis) => motorPins(facts, axis)),
    switches: ['x', 'y', 'z'].map((axis) =>
      lead(`PIN_${axis.toUpperCase()}_SWITCH`, by('switch', axis), 'signal'),
    ),
    heat: ['hotend', 'bed'].flatMap((body) => [
      lead(`PIN_${body.toUpperCase()}_SENSOR`, by('thermistor', body), 'signal'),
      lead(`PIN_${body.toUpperCase()}_HEATER`, heatSwitch(facts, body), 'control'),
    ]),
    probe: [lead('PIN_PROBE_SIGNAL', probe, 'signal'), lead('PIN_PROBE_SERVO', probe, 'control')],
  };
}

function motorPins(facts: Facts, axis: string): PinRow[] {
  const motor = facts.parts.find((part) => part.type.kind === 'motor' && part.role === axis);
  const socket = facts.board.sockets.find((entry) => entry.id === socketOf(motor));
  const because = socket ? `${motor?.id} in socket ${socket.id}` : 'no motor';
  return (['step', 'dir', 'enable'] as const).map((line) => ({
    name: `PIN_${axis.toUpperCase()}_${line.toUpperCase()}`,
    pin: socket?.[line] ?? -1,
    because,
  }));
}

/** The pin table as CSV: name, pin, pin by the harness where it was decided otherwise, because. */
export function pinTableCsv(facts: Facts): string {
  const rows = Object.values(pinTable(facts)).flat();
  return csv([
    ['name', 'pin', 'pin by the harness', 'because'],
    ...rows.map(({ name, pin, computed, because }) => [
      name,
      `${pin}`,
      computed === undefined ? '' : `${computed}`,
      because,
    ]),
  ]);
}
