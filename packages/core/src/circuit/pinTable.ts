import { contactNet } from '../board/contacts';
import type { Net } from '../board/net';
import { type Facts, heatSwitch, type PlacedPart, socketOf } from '../machine/facts';
import { csv } from '../text/csv';
import { HEATED, SECOND_HOTEND } from '../machine/machine';
import type { Lead } from '../parts/part';
import { secondMotor } from '../machine/secondMotor';
import { SERVOS, servosOf } from '../machine/servos';
import { oncePer } from '../tree/oncePer';
import { spareSensor } from '../machine/spareSensor';

/** One lead of a part with the contact it sits on and what that contact is connected to. */
export interface PlacedLead {
  part: PlacedPart;
  role: Lead['role'];
  needs: Lead['needs'];
  contact: string;
  net: Net;
}

/** Every lead that is connected to a header, in the machine's order. */
export const placedLeads = oncePer((facts: Facts): readonly PlacedLead[] =>
  facts.parts.flatMap((part) => {
    if (!part.landing || 'socket' in part.landing) return [];
    const { leads } = part.landing;
    return part.type.leads.flatMap((lead) => {
      const contact = leads[lead.role];
      const net = contact === undefined ? undefined : contactNet(facts.board, contact);
      return contact !== undefined && net ? [{ part, role: lead.role, needs: lead.needs, contact, net }] : [];
    });
  }),
);

/** The chip pin that a part's lead reaches by the harness, or undefined when it is not connected to one. */
function pinByLeads(facts: Facts, part: PlacedPart | undefined, role: Lead['role']): number | undefined {
  if (!part?.landing || 'socket' in part.landing) return undefined;
  const contact = part.landing.leads[role];
  const net = contact === undefined ? undefined : contactNet(facts.board, contact);
  return net && 'pin' in net ? net.pin : undefined;
}

export interface PinRow {
  /** Preprocessor name in the generated files. */
  name: string;
  pin: number;
  /** The part whose lead it is; none for what a board has of its own. */
  part?: string;
  /** The lead that it serves, led anywhere yet or not. */
  serves?: { part: string; role: Lead['role'] };
  /** The part it serves and how it gets there. */
  because: string;
  /** What the harness says, where the user decided otherwise. */
  computed?: number;
}

/** Which generated header each row belongs to; a moved lead recompiles only that header's readers. */
export type PinGroupName = 'motors' | 'switches' | 'heat' | 'probe' | 'fans' | 'servo' | 'filament' | 'panel';

/** A pin as it is told; −1 is none. */
export const pinInWords = (pin: number): string => (pin < 0 ? 'none' : `p${pin}`);

/** The name of a row in the machine file: `PIN_X_SWITCH` is `x-switch`. */
export const pinKey = (name: string) => name.replace(/^PIN_/, '').toLowerCase().replaceAll('_', '-');

/**
 * The pin table: computed from the harness, with the user's own decisions over it. A pin of −1 means: nothing
 * connected. Computed once for a machine's facts.
 */
export const pinTable = oncePer((facts: Facts): Readonly<Record<PinGroupName, readonly PinRow[]>> => {
  const own = facts.machine.pins;
  const computed = computedPins(facts);
  if (!own) return computed;
  const decided = (row: PinRow): PinRow => {
    const override = own[pinKey(row.name)];
    return override ? { ...row, pin: override.pin, because: override.because, computed: row.pin } : row;
  };
  // One row for each key of the record it is made from.
  return Object.fromEntries(
    Object.entries(computed).map(([group, rows]) => [group, rows.map(decided)]),
  ) as Record<PinGroupName, PinRow[]>;
});

function computedPins(facts: Facts): Record<PinGroupName, PinRow[]> {
  const lead = (name: string, part: PlacedPart | undefined, role: Lead['role']): PinRow => {
    if (!part) return { name, pin: -1, because: 'nothing connected' };
    const serves = { part: part.id, role };
    const pin = pinByLeads(facts, part, role);
    if (pin === undefined || !part.landing || 'socket' in part.landing)
      return { name, pin: -1, serves, because: 'nothing connected' };
    return { name, pin, part: part.id, serves, because: `${part.id} ${role} on ${part.landing.leads[role]}` };
  };
  const by = (kind: string, role: string) =>
    facts.parts.find((part) => part.type.kind === kind && part.role === role);
  const first = (kind: string) => facts.parts.find((part) => part.type.kind === kind);
  const probe = first('probe');
  return {
    motors: [
      ...['x', 'y', 'z', 'e'].flatMap((axis) => motorPins(facts, axis.toUpperCase(), by('motor', axis))),
      ...motorPins(facts, 'Z2', secondMotor(facts, 'z')),
      ...motorPins(facts, 'E2', secondMotor(facts, 'e')),
    ],
    switches: [
      ...['x', 'y', 'z'].map((axis) =>
        lead(`PIN_${axis.toUpperCase()}_SWITCH`, by('switch', axis), 'signal'),
      ),
      ...['x', 'y'].map((axis) => stallPin(facts, axis.toUpperCase(), by('motor', axis))),
    ],
    heat: [
      ...['hotend', 'bed', 'chamber'].map((body) =>
        lead(`PIN_${body.toUpperCase()}_SENSOR`, by('thermistor', body), 'signal'),
      ),
      ...HEATED.map((body) => lead(`PIN_${body.toUpperCase()}_HEATER`, heatSwitch(facts, body), 'control')),
      lead('PIN_CHAMBER_HEATER', heatSwitch(facts, 'chamber'), 'control'),
      lead('PIN_SPARE_SENSOR', spareSensor(facts), 'signal'),
      lead('PIN_HOTEND_2_SENSOR', by('thermistor', SECOND_HOTEND), 'signal'),
      lead('PIN_HOTEND_2_HEATER', heatSwitch(facts, SECOND_HOTEND), 'control'),
    ],
    probe: [
      lead('PIN_PROBE_SIGNAL', probe, 'signal'),
      lead('PIN_PROBE_SERVO', probe, 'control'),
      headerPin(facts, 'PIN_Z_HEADER', Z_SWITCH_HEADER),
      headerPin(facts, 'PIN_PROBE_HEADER', PROBE_HEADER),
    ],
    fans: [
      ...['part', 'hotend', 'board'].map((role) =>
        lead(`PIN_${role.toUpperCase()}_FAN`, by('fan', role), 'control'),
      ),
      lead('PIN_LAMP', first('lamp'), 'control'),
    ],
    servo: SERVOS.map((name, index) => {
      const id = servosOf(facts)[index]?.id;
      const part = facts.parts.find((entry) => entry.id === id);
      return lead(`PIN_SERVO_${name.toUpperCase()}`, part, 'control');
    }),
    filament: [lead('PIN_FILAMENT', first('filament-sensor'), 'signal')],
    panel: [usedPin(facts, 'PIN_BEEPER', 'beeper')],
  };
}

/** What boards say a header is made for. */
export const Z_SWITCH_HEADER = /z switch/i;
const PROBE_HEADER = /probe/i;

/** The input of a header by what the board made it for: a board may lead more than one pin to it. */
function headerPin(facts: Facts, name: string, made: RegExp): PinRow {
  const header = facts.board.headers.find((entry) => made.test(entry.for ?? ''));
  const nets = (header?.contacts ?? []).map((_, index) =>
    contactNet(facts.board, `${header?.id}.${index + 1}`),
  );
  // The last: a servo's lead comes before the signal that is read.
  const net = nets.filter((entry) => entry?.kind === 'sig').at(-1);
  return net?.kind === 'sig'
    ? { name, pin: net.pin, because: `the signal of ${header?.id}` }
    : { name, pin: -1, because: 'no such header' };
}

/** The pin a board uses for a device of its own. */
function usedPin(facts: Facts, name: string, by: string): PinRow {
  const pin = facts.board.uses?.find((use) => use.by === by)?.pins[0];
  return pin === undefined
    ? { name, pin: -1, because: `this board has no ${by}` }
    : { name, pin, because: `the ${by} of the board` };
}

/** The input that a socket's stall output is tied to. */
function stallPin(facts: Facts, axis: string, motor: PlacedPart | undefined): PinRow {
  const socket = facts.board.sockets.find((entry) => entry.id === socketOf(motor));
  return socket?.stall === undefined
    ? { name: `PIN_${axis}_STALL`, pin: -1, because: 'its socket has no stall line' }
    : { name: `PIN_${axis}_STALL`, pin: socket.stall, because: `the stall line of socket ${socket.id}` };
}

function motorPins(facts: Facts, axis: string, motor: PlacedPart | undefined): PinRow[] {
  const socket = facts.board.sockets.find((entry) => entry.id === socketOf(motor));
  const because = socket ? `${motor?.id} in socket ${socket.id}` : 'no motor';
  return (['step', 'dir', 'enable'] as const).map((line) => ({
    name: `PIN_${axis}_${line.toUpperCase()}`,
    pin: socket?.[line] ?? -1,
    because,
  }));
}

/**
 * The chip pin by which the firmware reads or drives a part's lead: decided by hand, or else by the harness. Undefined
 * when there is none.
 */
export function pinOf(facts: Facts, part: PlacedPart | undefined, role: Lead['role']): number | undefined {
  const decided = part && facts.machine.pins && decidedFor(facts, part, role);
  if (!decided) return pinByLeads(facts, part, role);
  return decided.pin < 0 ? undefined : decided.pin;
}

/** The row of a lead whose pin was decided by hand. */
const decidedFor = (facts: Facts, part: PlacedPart, role: Lead['role']): PinRow | undefined =>
  Object.values(pinTable(facts))
    .flat()
    .find(
      ({ serves, computed }) => computed !== undefined && serves?.part === part.id && serves.role === role,
    );

/** A signal that the firmware reads, and where: at a contact, or at a pin that was decided by hand. */
export interface SignalRead {
  part: PlacedPart;
  pin: number;
  /** Contact or pin, as it is told. */
  at: string;
  /** Both, as evidence. */
  where: string;
}

/** Every signal that the firmware reads, in the machine's order. */
export const signalsRead = oncePer((facts: Facts): readonly SignalRead[] =>
  facts.parts.flatMap((part) => {
    const pin = pinOf(facts, part, 'signal');
    if (pin === undefined) return [];
    const contact = part.landing && 'leads' in part.landing ? part.landing.leads.signal : undefined;
    const byHand = facts.machine.pins && decidedFor(facts, part, 'signal') !== undefined;
    return contact === undefined || byHand
      ? [{ part, pin, at: `p${pin}`, where: `p${pin} decided by hand` }]
      : [{ part, pin, at: contact, where: `p${pin} at ${contact}` }];
  }),
);

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
