import type { Board } from '../board/board';
import { supplyVolts } from '../board/board';
import { contactNet } from '../board/contacts';
import type { SupplySource } from '../board/net';
import type { Adapter, Landing, LeadLanding } from '../machine/landing';
import type { Part } from '../parts/part';
import { parseContact } from './leadOrder';

/** A part asks for its voltage within this share; regulators and supplies are never exact. */
export const VOLTAGE_SLACK = 0.1;

export const fitsVoltage = (gets: number, wants: number) => Math.abs(gets - wants) <= wants * VOLTAGE_SLACK;
/** Whether a board may be fed with so many volts. */
export const takesVoltage = ({ input_v }: Pick<Board, 'input_v'>, volts: number) =>
  input_v.some((wants) => fitsVoltage(volts, wants));

/** Amperes a part draws at most, fed with `volts`: a resistive heater in proportion, everything else what it says. */
export function ampsOf(type: Part, volts: number): number | undefined {
  return type.kind === 'heater' ? (type.watts / type.volts ** 2) * volts : type.draws_a;
}

/** What feeds a contact: the board's net, unless a jumper of its header was seen to select another supply. */
export function sourceAt(
  board: Board,
  contact: string,
  jumpers: Readonly<Record<string, string>>,
): SupplySource | undefined {
  const net = contactNet(board, contact);
  if (net?.kind !== 'supply') return undefined;
  const { header } = parseContact(contact);
  const jumper = board.jumpers?.find((entry) => entry.sets === 'fan voltage' && entry.of === header);
  const position = jumper?.positions.find((entry) => entry.id === jumpers[jumper.id]);
  return position?.gives ?? net.source;
}

/** Volts a part's supply lead gets, a converter of its own included; undefined where it has none. */
export function voltsAtLead(
  board: Board,
  landing: Landing | undefined,
  vin: number,
  jumpers: Readonly<Record<string, string>>,
): number | undefined {
  if (!landing || !('leads' in landing)) return undefined;
  const contact = landing.leads['supply'];
  if (contact === undefined) return undefined;
  const converter = adapterOf(landing, 'converter');
  if (converter) return converter.volts_v;
  const source = sourceAt(board, contact, jumpers);
  return source && supplyVolts(source, vin);
}

/** The first adapter of a kind in a landing. */
export function adapterOf<K extends Adapter['kind']>(landing: LeadLanding, kind: K, lead?: string) {
  return landing.with?.find(
    (adapter): adapter is Extract<typeof adapter, { kind: K }> =>
      adapter.kind === kind && (lead === undefined || ('lead' in adapter && adapter.lead === lead)),
  );
}

/** Whether the supply lead of a part is on ground and its ground lead on a supply. */
export function isReversed(board: Board, { leads }: LeadLanding): boolean {
  const kindAt = (role: string) => contactNet(board, leads[role] ?? '')?.kind;
  return kindAt('supply') === 'gnd' && kindAt('ground') === 'supply';
}

/** The ribbon header that a landing leaves to the display, by an adapter board or a single wire taken out of it. */
export function besideRibbon(landing: LeadLanding): string | undefined {
  return (adapterOf(landing, 'tap') ?? adapterOf(landing, 'ribbon-lead'))?.header;
}

/** Whether a part is connected with an adapter of a kind. */
export function hasAdapter(
  { landing }: { landing?: Landing | undefined },
  kind: Parameters<typeof adapterOf>[1],
  lead?: string,
): boolean {
  return landing !== undefined && 'leads' in landing && adapterOf(landing, kind, lead) !== undefined;
}
