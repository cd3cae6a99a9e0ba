import { besideRibbon } from '../circuit/loads';
import { isMains } from '../parts/part';
import { ribbonWork } from './ribbonWork';
import type { Header } from '../board/board';
import { contactsOf, headerOf } from '../board/contacts';
import { type Facts, partFor, type PlacedPart } from '../machine/facts';
import { sameValue } from '../tree/sameValue';
import type { LeadRole } from '../machine/landing';
import { sameBoard, samePart } from '../machine/same';
import { adapterTasks } from './adapterWords';
import { EITHER_WAY, headersOf, leadOrder, parseContact } from '../circuit/leadOrder';
import { lengthNeeded } from './reach';
import { supplyAt } from '../circuit/supplyAt';

/** What is done to a lead in a swap. */
export type LeadAct =
  | 'leave' | 'new' | 'retire' | 'move' | 're-crimp' | 'shell' | 'adapter' | 'lengthen' | 'shorten' | 'turn' | 'part'; // prettier-ignore

export interface LeadTask {
  act: LeadAct;
  what: string;
}

/** One contact of a plug or header as it is drawn: its number, what the board has there, which lead sits on it. */
export interface EndContact {
  number: number;
  net: string;
  role?: LeadRole;
}
/** One header a lead goes to. */
export interface LeadEnd {
  header: string;
  family: string;
  runs: 'right' | 'up';
  contacts: EndContact[];
}
/** Where a part is connected on one board. */
export type End = { socket: string; turned: boolean; order: string[] } | { headers: LeadEnd[] };

/** Where a part's leads sit, contact by contact; undefined where it is not connected. */
export function endOf({ board }: Facts, part: PlacedPart | undefined): End | undefined {
  const landing = part?.landing;
  if (!landing) return undefined;
  if ('socket' in landing) {
    const socket = board.sockets.find(({ id }) => id === landing.socket);
    return { socket: landing.socket, turned: landing.turned ?? false, order: socket?.motor?.order ?? [] };
  }
  return {
    headers: headersOf(landing).flatMap((id) => {
      const header = headerOf(board, `${id}.1`);
      if (!header) return [];
      return [
        {
          header: id,
          family: header.family,
          runs: header.runs,
          contacts: header.contacts.map((net, index) => {
            const role = Object.entries(landing.leads).find(
              ([, contact]) => contact === `${id}.${index + 1}`,
            )?.[0];
            // A key of the landing's leads, which are named by role.
            return { number: index + 1, net, ...(role && { role: role as LeadRole }) };
          }),
        },
      ];
    }),
  };
}

/** What has to be done to a part's lead between two states of a machine; one task `leave` when nothing. */
export function leadTasks(before: Facts, after: Facts, id: string): LeadTask[] {
  const old = before.parts.find((part) => part.id === id);
  const part = after.parts.find((entry) => entry.id === id);
  if (!part) return [{ act: 'retire', what: 'Take the lead out, or tape its end and tie it back.' }];
  if (isMains(part.type)) return [{ act: 'retire', what: mainsWork(after, part, old) }];
  if (!part.landing) return [{ act: 'leave', what: 'It has no place yet.' }];
  const tasks: LeadTask[] = [];
  const say = (act: LeadAct, what: string) => tasks.push({ act, what });
  if (old && !samePart(old, part)) say('part', `${part.type.name} takes the place of ${old.part === part.part ? 'the old one' : old.type.name}.`); // prettier-ignore
  if (!old?.landing) say('new', newPlug(after, part));
  else if ('socket' in part.landing) socketTasks(before, after, old, part, say);
  else if ('leads' in old.landing) plugTasks(before, after, old, part, say);
  for (const words of adapterTasks(part.landing))
    if (!adapterTasks(old?.landing).includes(words)) say('adapter', words);
  if ('leads' in part.landing && !sameValue(old?.landing, part.landing))
    for (const words of ribbonWork(after.board, part.landing)?.tasks ?? []) say('adapter', words);
  reachTasks(after, part, say);
  return tasks.length > 0 ? tasks : [{ act: 'leave', what: 'It stays as it is.' }];
}

/** A mains part keeps no lead at the board; what its relay switches is the electrician's. */
function mainsWork(facts: Facts, { role }: PlacedPart, old: PlacedPart | undefined): string {
  const relay = partFor(facts, 'relay', role);
  const off =
    old?.landing && 'leads' in old.landing
      ? `Take its old wires out of ${headersOf(old.landing).join(' and ')}. `
      : '';
  return `${off}Its mains wires go to ${relay ? `the output side of ${relay.id}` : 'a relay, which is not chosen yet'}, never to the board.`;
}

/** Screw terminals take sleeves, everything else a crimped plug. */
function newPlug({ board }: Facts, { landing }: PlacedPart): string {
  if (landing && 'leads' in landing && besideRibbon(landing) !== undefined)
    return 'Its wires meet the ribbon, not the header: no plug to crimp there.';
  const headers = landing && 'leads' in landing ? headersOf(landing) : [];
  return headers.some((id) => headerOf(board, `${id}.1`)?.family.startsWith('screw'))
    ? 'Fit end sleeves, never tinned wire; pull at each once it is tight.'
    : 'Crimp a new plug: the contacts in the order shown.';
}

type Say = (act: LeadAct, what: string) => void;

function socketTasks(before: Facts, after: Facts, old: PlacedPart, part: PlacedPart, say: Say): void {
  const [was, is] = [endOf(before, old), endOf(after, part)];
  if (!was || !is || !('socket' in was) || !('socket' in is)) return;
  const motor = part.type.kind === 'motor';
  if (was.turned !== is.turned) say('turn', 'Put the plug in the other way round.');
  if (motor && was.order.join() !== is.order.join() && is.order.length > 0 && was.order.length > 0)
    say('re-crimp', `Put the wires in the order ${is.order.join(', ')}: pairs must stay pairs.`);
  else if (!sameBoard(before.machine, after.machine) || was.socket !== is.socket)
    say(
      'move',
      motor
        ? was.turned === is.turned
          ? 'The plug goes over as it is.'
          : 'Move the plug over.'
        : 'Seat the module with its pot or mark the way the board shows.',
    );
}

function plugTasks(before: Facts, after: Facts, old: PlacedPart, part: PlacedPart, say: Say): void {
  const [from, to] = [old.landing, part.landing];
  if (!from || !to || !('leads' in from) || !('leads' in to)) return;
  if (sameBoard(before.machine, after.machine) && sameValue(from, to)) return;
  const [was, is] = [
    headerOf(before.board, `${headersOf(from)[0]}.1`),
    headerOf(after.board, `${headersOf(to)[0]}.1`),
  ];
  if (!was || !is) return;
  const screw = (family: string) => family.startsWith('screw');
  const otherShell = was.family !== is.family || was.pitch_mm !== is.pitch_mm;
  const gap = was.contacts.length !== is.contacts.length;
  if (headersOf(to).length > headersOf(from).length)
    say('shell', `The leads part: they go to ${headersOf(to).join(' and ')}.`);
  else if (screw(is.family)) {
    if (otherShell || !screw(was.family))
      say('shell', `Fit end sleeves for ${is.family} terminals. Never tin them.`);
    else
      say(
        'move',
        `End sleeves into ${is.family} terminals, never tinned wire; pull at each once it is tight.`,
      );
  } else if (otherShell) say('shell', `Change the shell: ${shellInWords(was)}, to ${shellInWords(is)}.`);
  if (gap || otherOrder(from, to, part)) say('re-crimp', orderInWords(after, to));
  if (!screw(is.family) && !otherShell && !gap && !otherOrder(from, to, part))
    say('move', 'The plug fits as it is.');
  const [gave, gives] = [supplyAt(before, from), supplyAt(after, to)];
  if (gave !== undefined && gives !== undefined && gave !== gives)
    say('part', `It gets ${gives} V; its old place gave ${gave} V.`);
}

const shellInWords = ({ family, pitch_mm, contacts }: Header) =>
  `${family} of ${pitch_mm} mm with ${contacts.length} contacts`;

const otherOrder = (
  from: { leads: Record<string, string> },
  to: { leads: Record<string, string> },
  part: PlacedPart,
) => !EITHER_WAY.has(part.type.kind) && leadOrder(from).join() !== leadOrder(to).join();

/** `Contacts in this order: 1 empty, 2 ground, 3 signal.` for every header the leads go to. */
function orderInWords({ board }: Facts, { leads }: { leads: Record<string, string> }): string {
  const parts = headersOf({ leads }).map((id) => {
    const row = [...contactsOf(board).values()].filter(({ header }) => header.id === id);
    const words = row.map(({ name, number }) => `${number} ${roleAt(leads, name) ?? 'empty'}`);
    return `${id}: ${words.join(', ')}`;
  });
  return `Contacts in this order, ${parts.join('; ')}.`;
}

const roleAt = (leads: Record<string, string>, contact: string) =>
  Object.entries(leads).find(([, at]) => at === contact)?.[0];

function reachTasks(after: Facts, part: PlacedPart, say: Say): void {
  const cable = after.machine.cables?.[part.id];
  if (!part.landing || !('leads' in part.landing) || cable?.length_mm === undefined) return;
  const needed = lengthNeeded(after.board, part.landing, cable.route_mm, after.machine.bay);
  if (needed === undefined) return;
  if (cable.length_mm < needed)
    say('lengthen', `Lengthen it from ${cable.length_mm} mm to ${Math.ceil(needed)} mm at least.`);
  else if (cable.length_mm > needed * TOO_LONG)
    say(
      'shorten',
      `It has ${Math.round(cable.length_mm - needed)} mm to spare: shorten or coil it away from fans.`,
    );
}
/** A lead this many times longer than needed is in the way. */
const TOO_LONG = 1.8;

/** Headers whose plugs come in from a side that has a wall. */
export function wallPlugs({
  board,
  machine,
  parts,
}: Facts): { header: string; side: string; parts: string[] }[] {
  const walls = machine.bay?.walls ?? [];
  return board.headers.flatMap(({ id, faces }) => {
    if (!faces || faces === 'up' || !walls.includes(faces)) return [];
    const here = parts.filter(
      ({ landing }) =>
        landing &&
        'leads' in landing &&
        Object.values(landing.leads).some((contact) => parseContact(contact).header === id),
    );
    return here.length > 0 ? [{ header: id, side: faces, parts: here.map((part) => part.id) }] : [];
  });
}
