import { oncePer } from '../tree/oncePer';
import { type Board, type Header, supplyVolts } from '../board/board';
import { pinGroup } from '../board/chip';
import { type Contact, contactNet, contactsOf } from '../board/contacts';
import type { Net, SupplySource } from '../board/net';
import { type Divider, dividerFor } from '../electricity/dividerFor';
import type { Adapter, LeadLanding, SocketLanding } from '../machine/landing';
import { type Lead, madeForVolts } from '../parts/part';
import type { Judged } from './judged';
import { drivenVolts, judgeLeads } from './judgeLeads';
import { type Drive, judgeSocket } from './judgeSocket';
import { adapterOf, fitsVoltage } from '../circuit/loads';
import { MAIN_SUPPLY, purposesServed } from './purposes';
import type { WiredPart, WiringCase } from './wiringCase';

/** Every legal landing of a drive, in the board's order. */
export function socketLandings(wiring: WiringCase, drive: Drive): Judged[] {
  const before = drive.motors[0] && wiring.before?.harness[drive.motors[0].id];
  const turned =
    before && 'socket' in before && wiring.before?.board === wiring.board ? before.turned : undefined;
  return wiring.board.sockets
    .map((socket): SocketLanding => ({ socket: socket.id, ...(turned && { turned }) }))
    .map((landing) => judgeSocket(wiring, drive, landing))
    .filter(({ breaks }) => breaks.length === 0);
}

/** Every legal landing of a part with leads, in the board's order; see docs/harness-search.md for its forms. */
export function leadLandings(wiring: WiringCase, part: WiredPart): Judged[] {
  if (part.type.leads.length === 0) return [];
  return candidates(wiring, part)
    .map((landing) => judgeLeads(wiring, part, inOrder(part, withAdapters(wiring, part, landing))))
    .filter(({ breaks }) => breaks.length === 0);
}

/** Leads in the order in which the part names them, so that equal landings are written the same. */
function inOrder({ type }: WiredPart, landing: LeadLanding): LeadLanding {
  const leads: LeadLanding['leads'] = {};
  for (const { role } of type.leads) {
    const contact = landing.leads[role];
    if (contact !== undefined) leads[role] = contact;
  }
  return { ...landing, leads };
}

/** Pin leads at every contact that could serve them, all at one header or two; the others follow them. */
function candidates(wiring: WiringCase, part: WiredPart): LeadLanding[] {
  const { board } = wiring;
  const contacts = [...contactsOf(board).values()].filter(({ header }) => header.for !== MAIN_SUPPLY);
  const sources = sourcesFor(wiring, part);
  const pinLeads = part.type.leads.filter((lead) => lead.role === 'signal' || lead.role === 'control');
  if (pinLeads.length === 0)
    return board.headers
      .filter((header) => header.for === 'display')
      .flatMap((header) => completed(wiring, sources, [header], {}));
  const heads = pinLeads.reduce<{ headers: Header[]; leads: Record<string, string> }[]>(
    (found, lead) => {
      const able = contacts.filter(({ net }) => couldServe(wiring, lead, net));
      return found.flatMap(({ headers, leads }) =>
        able
          .filter(({ name }) => !Object.values(leads).includes(name))
          .map(({ name, header }) => ({
            headers: headers.includes(header) ? headers : [...headers, header],
            leads: { ...leads, [lead.role]: name },
          })),
      );
    },
    [{ headers: [], leads: {} }],
  );
  const hasDisplay = wiring.parts.some(({ type }) => type.kind === 'display');
  return heads.flatMap(({ headers, leads }) =>
    completed(wiring, sources, headers, leads).flatMap((landing) => {
      const [header] = headers;
      return hasDisplay && header?.for === 'display' && !landing.with
        ? [landing, tapped(landing, header.id), takenOut(landing, header.id)]
        : [landing];
    }),
  );
}

const tapped = ({ leads }: LeadLanding, header: string): LeadLanding => ({
  leads,
  with: [{ kind: 'tap', header }],
});

/** One wire of the ribbon goes to the part; what the display needs as well is joined to. */
const takenOut = ({ leads }: LeadLanding, header: string): LeadLanding => ({
  leads,
  with: [
    { kind: 'ribbon-lead', header },
    ...(['supply', 'ground'] as const)
      .filter((role) => leads[role]?.startsWith(`${header}.`))
      .map((lead) => ({ kind: 'splice' as const, lead })),
  ],
});

function couldServe({ chip }: WiringCase, lead: Lead, net: Net): boolean {
  if (lead.needs === 'sw') return net.kind === 'sw';
  if (net.kind !== 'sig') return false;
  return lead.needs === undefined || (pinGroup(chip, net.pin)?.can.includes(lead.needs) ?? false);
}

/**
 * Supply and ground, so that a landing reaches two headers at most. They lie beside a pin lead where there is room for both; else the supply comes from a header
 * made to give it or made for no part of this machine, or is spliced to where it is strongest.
 */
function completed(
  wiring: WiringCase,
  { supplies, giving, strongest, wantsSupply, wantsGround, strong }: Sources,
  headers: readonly Header[],
  pins: Record<string, string>,
): LeadLanding[] {
  const taken = new Set(Object.values(pins));
  const free = (header: Header, test: (net: Net) => boolean) => rowOf(wiring.board, header).find(({ name, net }) => test(net) && !taken.has(name)); // prettier-ignore
  const anywhere = (list: readonly Header[], test: (net: Net) => boolean) =>
    list.map((header) => free(header, test)).find((found) => found !== undefined);
  const supply = (net: Net) => net.kind === 'supply' && supplies.has(net.source);
  const ground = (net: Net) => net.kind === 'gnd';
  const own = wantsGround ? anywhere(headers, ground) : undefined;
  const power = wantsSupply ? anywhere(headers, supply) : undefined;
  const landing = (from: Contact | undefined, to: Contact | undefined, spliced: boolean): LeadLanding[] => {
    if ((wantsSupply && !from) || (wantsGround && !to)) return [];
    const leads = {
      ...pins,
      ...(from && { supply: from.name }),
      ...(wantsGround && to && { ground: to.name }),
    };
    const splices: Adapter[] = [
      ...(spliced && from ? [{ kind: 'splice' as const, lead: 'supply' as const }] : []),
      ...(spliced && wantsGround && to !== own ? [{ kind: 'splice' as const, lead: 'ground' as const }] : []),
    ];
    return [{ leads, ...(splices.length > 0 && { with: splices }) }];
  };
  // Current that matters goes back where it came from, not through a thin signal header.
  const groundBeside = (header: Header) =>
    strong ? (free(header, ground) ?? own) : (own ?? free(header, ground));
  if (power || (!wantsSupply && own))
    return [...landing(power, own, false), ...(!wantsSupply && own ? groundSpliced(pins, own) : [])];
  if (headers.length > 1) return [];
  return [
    ...giving
      .filter((header) => !headers.includes(header))
      .flatMap((header) => landing(free(header, supply), groundBeside(header), false)),
    ...(strongest ? landing(free(strongest, supply), groundBeside(strongest), true) : []),
  ];
}

/** What a signal header carries back without a thought, in A. */
const SIGNAL_HEADER_A = 0.2;

/** Where a part's supply can come from, the same for all of its landings. */
interface Sources {
  wantsSupply: boolean;
  wantsGround: boolean;
  supplies: ReadonlySet<string>;
  giving: Header[];
  strongest: Header | undefined;
  /** It draws more than a signal header should carry back. */
  strong: boolean;
}

function sourcesFor(wiring: WiringCase, { type }: WiredPart): Sources {
  const wants = (role: string) => type.leads.some((lead) => lead.role === role);
  const supplies = wants('supply') ? suppliesFor(wiring, madeForVolts(type)) : new Set<string>();
  return {
    wantsSupply: wants('supply'),
    wantsGround: wants('ground'),
    supplies,
    giving: wiring.board.headers.filter((header) => givesAway(wiring, header)),
    strongest: splicePoint(wiring, supplies),
    strong: (type.draws_a ?? 0) > SIGNAL_HEADER_A,
  };
}

const rowsOf = oncePer((board: Board) => {
  const rows = new Map<Header, Contact[]>(board.headers.map((header) => [header, []]));
  for (const contact of contactsOf(board).values()) rows.get(contact.header)?.push(contact);
  return rows;
});
const rowOf = (board: Board, header: Header): readonly Contact[] => rowsOf(board).get(header) ?? [];

/** Made to give supply, or made for something this machine has not got. */
function givesAway({ parts }: WiringCase, header: Header): boolean {
  return header.for !== MAIN_SUPPLY && !purposesServed(parts).has(header.for ?? '');
}

/** Where a wire can best be spliced to a supply: the header that may give most of it. */
function splicePoint({ board }: WiringCase, supplies: ReadonlySet<string>): Header | undefined {
  const gives = (header: Header) =>
    rowOf(board, header).some(({ net }) => net.kind === 'supply' && supplies.has(net.source));
  return board.headers
    .filter(gives)
    .reduce<Header | undefined>(
      (most, header) => ((most?.max_a ?? -1) >= (header.max_a ?? 0) ? most : header),
      undefined,
    );
}

/** Two sensors at one header share its only ground contact by a splice. */
const groundSpliced = (pins: Record<string, string>, ground: Contact): LeadLanding[] => [
  { leads: { ...pins, ground: ground.name }, with: [{ kind: 'splice', lead: 'ground' }] },
];

/** Sources that give what a part wants, or more, which a converter can bring down. */
function suppliesFor({ vin, board }: WiringCase, wants: number | undefined): ReadonlySet<string> {
  if (wants === undefined) return new Set(['vin']);
  const given = new Set<SupplySource>();
  for (const { net } of contactsOf(board).values()) if (net.kind === 'supply') given.add(net.source);
  const exact = [...given].filter((source) => fitsVoltage(supplyVolts(source, vin), wants));
  if (exact.length > 0) return new Set(exact);
  return new Set([...given].filter((source) => supplyVolts(source, vin) > wants));
}

/** The little things that make a landing legal: divider, shifter, converter, pull-up past a known fault. */
function withAdapters(wiring: WiringCase, part: WiredPart, landing: LeadLanding): LeadLanding {
  const extra = [
    ...neededDivider(wiring, part, landing),
    ...neededShifters(wiring, part),
    ...neededConverter(wiring, part, landing),
  ];
  if (extra.length === 0) return landing;
  return { leads: landing.leads, with: [...(landing.with ?? []), ...extra] };
}

function neededDivider(wiring: WiringCase, part: WiredPart, landing: LeadLanding): Adapter[] {
  const net = contactNet(wiring.board, landing.leads['signal'] ?? '');
  const driven = drivenVolts(part);
  const stands = net && 'pin' in net ? pinGroup(wiring.chip, net.pin)?.tolerates_v : undefined;
  if (driven === undefined || stands === undefined || driven <= stands) return [];
  const { topOhms, bottomOhms } = dividerOnce(driven, Math.min(wiring.chip.level_v, stands), stands);
  return [{ kind: 'divider', lead: 'signal', top_ohms: topOhms, bottom_ohms: bottomOhms }];
}

const dividers = new Map<string, Divider>();
/** The same few voltages come again at every contact. */
function dividerOnce(fromV: number, toV: number, tolerantV: number): Divider {
  const key = `${fromV} ${toV} ${tolerantV}`;
  const divider = dividers.get(key) ?? dividerFor.ofChecked({ fromV, toV, tolerantV });
  dividers.set(key, divider);
  return divider;
}

function neededShifters({ chip }: WiringCase, { type }: WiredPart): Adapter[] {
  return type.leads
    .filter((lead) => lead.high_from_v !== undefined && lead.high_from_v > chip.level_v)
    .map((lead) => ({ kind: 'shifter', lead: lead.role }));
}

function neededConverter(wiring: WiringCase, { type }: WiredPart, landing: LeadLanding): Adapter[] {
  const net = contactNet(wiring.board, landing.leads['supply'] ?? '');
  const wants = madeForVolts(type);
  if (net?.kind !== 'supply' || wants === undefined || adapterOf(landing, 'converter')) return [];
  const gives = supplyVolts(net.source, wiring.vin);
  return gives > wants && !fitsVoltage(gives, wants)
    ? [{ kind: 'converter', lead: 'supply', volts_v: wants }]
    : [];
}
