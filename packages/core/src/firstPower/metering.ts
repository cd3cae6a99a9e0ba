import type { Cause } from '../proofs/proof';
import { bodyCalled } from '../machine/bodyCalled';
import { type Facts, type PlacedPart, partsOf, socketOf } from '../machine/facts';
import { thermistorOhms } from '../heat/thermistor';
import { isMains, type PartOf } from '../parts/part';
import { parseNet } from '../board/net';
import { parallelOhms } from '../electricity/parallelOhms';
import { type MeterReading, OPEN_OHMS, ohmsInWords } from './meterReading';

/** What a reading must lie in, in Ω. */
export interface Bounds {
  least: number;
  most: number;
}

/** One thing to measure before there is power. */
export interface MeterRow {
  id: string;
  group: 'Supply' | 'Heaters' | 'Sensors' | 'Switches' | 'Motors' | 'Fans';
  what: string;
  /** The part that is measured; missing for the board itself. */
  part?: string;
  from: string;
  to: string;
  /** It is pressed meanwhile. */
  pressed?: true;
  /** Where and how the meter is put. */
  how: string;
  bounds: Bounds;
  /** What to expect, as it is read. */
  expect: string;
  /** Causes of a reading beside the bounds; the first that fits is the likeliest. */
  causes: readonly (Bounds & Cause)[];
}

export type Judgement = { fits: true } | { fits: false; causes: readonly Cause[] };

/** Judges a reading at once: it fits, or what may be behind it, the likeliest first. */
export function judgeReading(
  { bounds, causes }: Pick<MeterRow, 'bounds' | 'causes'>,
  reading: MeterReading,
): Judgement {
  const ohms = 'open' in reading ? Infinity : reading.value;
  if (ohms >= bounds.least && ohms <= bounds.most) return { fits: true };
  const fitting = causes.filter(({ least, most }) => ohms >= least && ohms <= most);
  return { fits: false, causes: fitting.map(({ least: _least, most: _most, ...cause }) => cause) };
}

const open = (): Bounds => ({ least: 1e6, most: Infinity });
const about = (ohms: number, share: number): Bounds => ({
  least: ohms * (1 - share),
  most: ohms * (1 + share),
});
const ANYTHING: Bounds = { least: 0, most: Infinity };

/** Share by which a heater's or winding's ohms may differ from what its label says. */
const HEATER_SHARE = 0.15;
const WINDING_SHARE = 0.4;
/** A meter's own leads have about half an ohm: what is below counts as touching. */
const SHORT_OHMS = 0.8;
/** Below this, what those leads have counts, and is taken off. */
const LEADS_COUNT_OHMS = 10;
const lessLeads = (ohms: number | undefined): string =>
  ohms === undefined || ohms >= LEADS_COUNT_OHMS ? '' : '; take off what the two tips read held together';
/** Between plus and minus of a dead board: less is a short. */
const SUPPLY_OHMS = 20;
/** The temperatures a room may have, in °C, widened for a meter's own error. */
const ROOM_C = [5, 38] as const;

/** Everything to be measured before there is power, from harness and parts, in the order it is measured. */
export function meterRows(facts: Facts): MeterRow[] {
  return [
    ...supplyRows(facts),
    ...partsOf(facts, 'heater').flatMap((part) => heaterRows(facts, part)),
    ...partsOf(facts, 'thermistor').flatMap((part) => sensorRow(facts, part)),
    ...partsOf(facts, 'switch').flatMap(switchRows),
    ...motorRows(facts),
    ...partsOf(facts, 'fan').flatMap(fanRow),
  ];
}

/** The two contacts of a part, where both are planned. */
function contactsOf({ landing }: PlacedPart): [string, string] | undefined {
  if (!landing || !('leads' in landing)) return undefined;
  const [from, to] = Object.values(landing.leads);
  return from !== undefined && to !== undefined ? [from, to] : undefined;
}

function supplyRows({ board }: Facts): MeterRow[] {
  const header = board.headers.find(({ contacts }) => {
    const kinds = contacts.map((net) => parseNet(net));
    const isInput = kinds.some((net) => net.kind === 'supply' && net.source === 'vin') && kinds.some(({ kind }) => kind === 'gnd');
    return isInput && contacts.length === 2;
  });
  if (!header) return [];
  const at = (kind: string) => `${header.id}.${header.contacts.findIndex((net) => parseNet(net).kind === kind) + 1}`;
  return [
    {
      id: 'supply',
      group: 'Supply',
      what: 'Plus to minus of the board',
      from: at('supply'),
      to: at('gnd'),
      how: 'at its terminal, the supply’s wires off it',
      bounds: { least: SUPPLY_OHMS, most: Infinity },
      expect: `more than ${SUPPLY_OHMS} Ω; it climbs while capacitors fill`,
      causes: [
        ...(board.drivers === 'plugged in' ? [{ ...ANYTHING, cause: 'A driver module sits the wrong way round, or one contact off', look: 'Take the modules out one by one and measure again.' }] : []),
        { ...ANYTHING, cause: 'A strand of wire bridges two terminals', look: 'Look between all terminals with a lamp.' },
      ],
    },
  ];
} // prettier-ignore

const ratedOhms = ({ type }: PlacedPart<PartOf<'heater'>>) => type.volts ** 2 / type.watts;

function heaterRows(facts: Facts, part: PlacedPart<PartOf<'heater'>>): MeterRow[] {
  const contacts = contactsOf(part);
  // Mains is nobody's but an electrician's: it has no row.
  if (!contacts || isMains(part.type)) return [];
  const called = bodyCalled(part.role);
  const ohms = ratedOhms(part);
  const [from, to] = contacts;
  const others = partsOf(facts, 'heater').filter(({ id, type }) => id !== part.id && !isMains(type));
  const { watts, volts } = part.type;
  return [
    {
      id: `heater-${part.role}`, group: 'Heaters', what: `Heater of the ${called}`, part: part.id, from, to,
      how: `across its two screws, its wires in them${lessLeads(ohms)}`,
      bounds: about(ohms, HEATER_SHARE),
      expect: `${ohmsInWords(ohms)}, of ${watts} W at ${volts} V`,
      causes: [
        ...others.map((other) => ({ ...about(ratedOhms(other), HEATER_SHARE), cause: `These are the ohms of the heater of the ${bodyCalled(other.role)}: their leads are exchanged`, look: 'Follow both pairs of wires, and compare them with the swap sheet.', at: 'wiring' as const })),
        { least: 0, most: SHORT_OHMS, cause: 'Its wires touch, or it is burnt through', look: 'Take it off the terminal and measure at its own wires. Do not give it power.' },
        { ...about(ohms / 4, 0.2), cause: `It is made for half the volts: ${volts / 2} V`, look: 'Read its label. On your supply it gives four times its watts: change it.', at: 'settings' as const },
        { ...about(ohms / 2, 0.2), cause: 'Two heaters in parallel, or one of twice the watts', look: 'Count them, and read their labels.', at: 'settings' as const },
        { ...about(ohms * 2, 0.2), cause: 'It is of half the watts, or two lie in a row', look: 'Read its label.', at: 'settings' as const },
        { ...about(ohms * 4, 0.2), cause: `It is made for twice the volts: ${volts * 2} V`, look: 'Read its label. On your supply it gives a quarter of its watts.', at: 'settings' as const },
        { least: OPEN_OHMS, most: Infinity, cause: 'A screw or crimp holds no wire, or it is burnt out', look: 'Pull at each wire; measure at the heater’s own wires.' },
        { ...ANYTHING, cause: 'It is another heater than was described', look: 'Read its label.', at: 'settings' as const },
      ],
    },
    {
      id: `frame-${part.role}`, group: 'Heaters', what: `Heater of the ${called} to the frame`, part: part.id, from, to: 'bare metal of the frame',
      how: 'one tip at its screw, one at bare metal',
      bounds: open(), expect: 'open',
      causes: [{ ...ANYTHING, cause: 'Its insulation is hurt: the frame is live with it', look: 'Find where a wire is pinched or a cartridge is cracked. Do not give it power.' }],
    },
  ];
} // prettier-ignore

function sensorRow(facts: Facts, part: PlacedPart<PartOf<'thermistor'>>): MeterRow[] {
  const contacts = contactsOf(part);
  if (!contacts) return [];
  const [warm, cold] = [thermistorOhms(part.type, ROOM_C[1]), thermistorOhms(part.type, ROOM_C[0])];
  const [from, to] = contacts;
  const other = facts.catalogue.parts.filter((type): type is PartOf<'thermistor'> => type.kind === 'thermistor');
  return [
    {
      id: `sensor-${part.role}`, group: 'Sensors', what: `Sensor of the ${bodyCalled(part.role)}`, part: part.id, from, to,
      how: 'at its plug, pulled off the board',
      bounds: { least: warm, most: cold },
      expect: `${ohmsInWords(warm)} to ${ohmsInWords(cold)} in a room; ${ohmsInWords(thermistorOhms(part.type, 22))} at 22 °C`,
      causes: [
        { least: 0, most: 20, cause: 'Its two wires touch', look: 'Look where they leave the block.' },
        { least: OPEN_OHMS, most: Infinity, cause: 'A crimp holds no wire, or it is broken', look: 'Measure at the sensor’s own wires.' },
        ...other.filter(({ id }) => id !== part.type.id).map((type) => ({ least: thermistorOhms(type, ROOM_C[1]), most: thermistorOhms(type, ROOM_C[0]), cause: `It may be a ${type.name}`, look: 'Name it by ohms at two known temperatures.', at: 'settings' as const })),
        { ...ANYTHING, cause: 'It is still warm, or of another type', look: 'Let it be as cold as the room and measure again.' },
      ],
    },
  ];
} // prettier-ignore

function switchRows(part: PlacedPart<PartOf<'switch'>>): MeterRow[] {
  const contacts = contactsOf(part);
  // What has electronics in it tells a meter nothing.
  if (!contacts || part.type.output !== undefined) return [];
  const [from, to] = contacts;
  const name = part.role.toUpperCase();
  const closedWhen = part.type.contact === 'normally-closed' ? 'free' : 'pressed';
  return (['free', 'pressed'] as const).map((state): MeterRow => {
    const closes = state === closedWhen;
    return {
      id: `switch-${part.role}-${state}`, group: 'Switches', what: `${name} switch, ${state}`, part: part.id, from, to,
      ...(state === 'pressed' && { pressed: true }),
      how: `at its plug, pulled off the board; ${state === 'free' ? 'hands off it' : 'pressed'}`,
      bounds: closes ? { least: 0, most: 5 } : open(),
      expect: closes ? 'less than 5 Ω' : 'open',
      causes: closes
        ? [{ ...ANYTHING, cause: 'A wire is off, or it is of the other kind', look: 'Measure it the other way round, then at its own lugs.', at: 'settings' }]
        : [{ ...ANYTHING, cause: 'It is of the other kind, or its wires touch', look: 'Measure it the other way round.', at: 'settings' }],
    };
  });
} // prettier-ignore

/** The motors of each socket; two of them on one share its plug, and lie in parallel. */
function motorRows(facts: Facts): MeterRow[] {
  const sockets = new Map<string, PlacedPart<PartOf<'motor'>>[]>();
  for (const motor of partsOf(facts, 'motor')) {
    const socket = socketOf(motor);
    if (socket !== undefined) sockets.set(socket, [...(sockets.get(socket) ?? []), motor]);
  }
  return [...sockets].flatMap(([socket, motors]) => windingRows(facts, socket, motors));
}

function windingRows(facts: Facts, socket: string, motors: readonly PlacedPart<PartOf<'motor'>>[]): MeterRow[] {
  const [first, ...others] = motors;
  if (!first) return [];
  const each = motors.flatMap(({ type }) => type.ohms ?? []);
  // Of no use where the label of one does not say.
  const ohms = each.length === motors.length ? parallelOhms(each) : undefined;
  const bounds = ohms === undefined ? { least: SHORT_OHMS, most: 60 } : about(ohms, WINDING_SHARE);
  const axis = first.role === 'e' ? 'extruder' : first.role.toUpperCase();
  const apart = facts.parts.filter(({ type, role }) => type.kind === 'motor' && role === first.role).length > 1;
  const ids = motors.map(({ id }) => id).join(' and ');
  return (['a', 'b'] as const).map((winding): MeterRow => ({
    id: `motor-${first.id}-${winding}`, group: 'Motors', part: first.id,
    what: `Motor${others.length > 0 ? 's' : ''} of ${axis}${apart ? `, ${ids}` : ''}, winding ${winding}`,
    from: `${socket} ${winding}1`, to: `${socket} ${winding}2`,
    how: `${others.length > 0 ? 'at the plug they share, pulled off the board' : 'at its plug, pulled off the board'}${lessLeads(ohms)}`,
    bounds,
    expect: `${ohms === undefined ? 'a few ohms' : `about ${ohmsInWords(ohms)}`}${others.length > 0 ? `, ${motors.length} in parallel` : ''}`,
    causes: [
      { least: OPEN_OHMS, most: Infinity, cause: 'The two windings are crossed in the plug', look: 'Find which wires belong together: they have a few ohms between them.', at: 'wiring' },
      { least: OPEN_OHMS, most: Infinity, cause: 'A crimp holds no wire, or a winding is broken', look: 'Measure at the motor’s own lugs.' },
      ...(others.length > 0 && first.type.ohms !== undefined
        ? [{ ...about(first.type.ohms, WINDING_SHARE), cause: 'Only one of them conducts', look: `Measure each at its own wires: about ${ohmsInWords(first.type.ohms)}. With a plug of its own for each, one after the other, this is right.` }]
        : []),
      { least: 0, most: SHORT_OHMS, cause: 'Its wires touch', look: 'Look along the cable for a pinch.' },
      { ...ANYTHING, cause: 'It is another motor than was described', look: 'Read its label.', at: 'settings' },
    ],
  }));
} // prettier-ignore

function fanRow(part: PlacedPart<PartOf<'fan'>>): MeterRow[] {
  const contacts = contactsOf(part);
  if (!contacts) return [];
  const [from, to] = contacts;
  return [
    {
      id: `fan-${part.role}`, group: 'Fans', what: `${part.role} fan`, part: part.id, from, to,
      how: 'at its plug, pulled off the board',
      bounds: { least: 10, most: Infinity },
      expect: 'no short: more than 10 Ω, or open',
      causes: [{ ...ANYTHING, cause: 'Its wires touch, or it is burnt out', look: 'Change it before it takes the board with it.' }],
    },
  ];
} // prettier-ignore
