import { headerOf } from '../board/contacts';
import { adaptersInWords } from '../harness/adapterWords';
import { shortLeads } from '../harness/electricity';
import { EITHER_WAY, leadOrder } from '../circuit/leadOrder';
import { fitsVoltage } from '../circuit/loads';
import { supplyAt } from '../circuit/supplyAt';
import type { Facts, PlacedPart } from '../machine/facts';
import { sameValue } from '../tree/sameValue';
import type { Landing } from '../machine/landing';
import { sameBoard, sameBoardType, samePart } from '../machine/same';
import { isWired, madeForVolts } from '../parts/part';
import type { Said } from './consequence';
import type { Stage } from './stage';

/** What happens to every cable between two states: moved, added, retired, or still without a place. */
export function leadRules(stage: Stage): Said[] {
  const { before, after } = stage;
  const was = new Map(before.parts.map((part) => [part.id, part]));
  const is = new Map(after.parts.map((part) => [part.id, part]));
  return [
    ...after.parts.flatMap((part) => {
      const old = was.get(part.id);
      return old ? moved(before, after, old, part) : added(after, part);
    }),
    ...before.parts.flatMap((part) => (is.has(part.id) ? [] : retired(part))),
  ];
}

const hasCable = (part: PlacedPart) => part.type.kind !== 'driver';
const NOUN: Record<string, string> = { driver: 'module', motor: 'plug' };
const noun = (part: PlacedPart) => NOUN[part.type.kind] ?? 'lead';

function added(after: Facts, part: PlacedPart): Said[] {
  if (!part.landing && part.type.leads.length === 0) return [];
  return [
    {
      kind: 'lead',
      subject: part.id,
      title: `New ${noun(part)}: ${part.id}`,
      to: part.landing ? landingInWords(part.landing) : 'no place yet',
      because: `${part.type.name} comes to the machine`,
      attention: [
        part.landing ? 'a new lead to lay and crimp' : 'find it a place in Wiring',
        ...volts(after, part),
      ],
    },
  ];
}

function retired(part: PlacedPart): Said[] {
  if (!part.landing) return [];
  return [
    {
      kind: 'lead',
      subject: part.id,
      title: `Retire the ${noun(part)} of ${part.id}`,
      from: landingInWords(part.landing),
      to: 'taken off',
      because: `${part.type.name} is not needed any more`,
      attention: ['tape the end, or take the lead out'],
    },
  ];
}

function moved(before: Facts, after: Facts, old: PlacedPart, part: PlacedPart): Said[] {
  const stays = sameBoard(before.machine, after.machine);
  const same = samePart(old, part);
  const samePlace = stays && sameValue(old.landing, part.landing);
  if (samePlace && same) return longer(before, after, part);
  if (!old.landing && !part.landing) return [];
  if (!isWired(part.type))
    return [
      {
        kind: 'lead',
        subject: part.id,
        title: `Take ${old.id} off the board; ${part.type.name} never meets it`,
        from: old.landing ? landingInWords(old.landing) : 'nowhere',
        to: 'the contacts of its relay, on the mains side',
        because: `${part.type.name} takes the place of ${old.type.name}`,
        attention: ['mains: local codes, a qualified electrician, earth, a thermal cut-out'],
      },
    ];
  // A soldered driver comes with its board.
  if (part.type.kind === 'driver' && !stays && after.board.drivers === 'soldered') return [];
  const swap = !same && samePlace;
  // A soldered driver stays with its board: what sits on the next one is another, be it of the same type.
  const left = !stays && before.board.drivers === 'soldered';
  const seated = part.type.kind === 'driver' && (!same || left);
  const from = old.landing ? landingInWords(old.landing) : 'nowhere';
  const to = part.landing ? landingInWords(part.landing) : 'no place yet';
  const attention = swap ? volts(after, part) : attentionTo(before, after, old, part);
  return [
    {
      kind: 'lead',
      subject: part.id,
      title: seated
        ? `Seat a new module: ${part.type.name} as ${part.id}`
        : swap
          ? `Exchange ${part.id}: ${part.type.name}`
          : `Move the ${noun(part)} of ${part.id}`,
      from: swap || seated ? `${old.type.name}${seated ? ` in ${from}` : ''}` : from,
      to: swap || seated ? `${part.type.name} ${seated ? 'in' : 'at'} ${to}` : to,
      because: stays
        ? swap
          ? succession(old, part)
          : 'it is connected elsewhere now'
        : otherBoard(before, after),
      ...(attention.length > 0 && { attention }),
    },
  ];
}

/** That a part takes the place of one before, of its own type or another. */
const succession = (old: PlacedPart, part: PlacedPart): string =>
  old.part === part.part
    ? `a new ${part.type.name} takes the place of the old one`
    : `${part.type.name} takes the place of ${old.type.name}`;

const otherBoard = (before: Facts, after: Facts): string =>
  sameBoardType(before.board, after.board)
    ? `a new ${after.board.name} takes the place of the old one; each goes where it was`
    : `${after.board.name} has other headers than ${before.board.name}`;

/** A cable that stays where it is and follows a longer way now. */
function longer(before: Facts, after: Facts, part: PlacedPart): Said[] {
  const [was, is] = [before, after].map(({ machine }) => machine.cables?.[part.id]?.route_mm);
  if (was === undefined || is === undefined || is <= was) return [];
  const short = shortLeads(after).find((lead) => lead.part === part.id);
  const has = after.machine.cables?.[part.id]?.length_mm;
  return [
    {
      kind: 'lead',
      subject: part.id,
      title: short ? `Lengthen the lead of ${part.id}` : `Look at the lead of ${part.id} at full travel`,
      from: `way of ${was} mm`,
      to: `way of ${is} mm`,
      because: 'the travel it follows is longer',
      attention: [
        short
          ? `it is ${short.length_mm} mm long and needs ${short.needed_mm} mm`
          : has === undefined
            ? 'its length was never measured'
            : `it is ${has} mm long, which should do`,
      ],
    },
  ];
}

/** Why the plug cannot simply go from one place to the other. */
function attentionTo(before: Facts, after: Facts, old: PlacedPart, part: PlacedPart): string[] {
  if (!part.landing) return ['find it a place in Wiring'];
  if (!old.landing) return hasCable(part) ? ['it was not connected before'] : [];
  const found: string[] = [];
  if ('socket' in part.landing) {
    if ('socket' in old.landing && (old.landing.turned ?? false) !== (part.landing.turned ?? false))
      found.push('the plug goes in the other way round');
    return found;
  }
  if ('leads' in old.landing) {
    const [was, is] = [headOf(before, old.landing.leads), headOf(after, part.landing.leads)];
    if (was && is && (was.family !== is.family || was.contacts.length !== is.contacts.length))
      found.push(
        `plug ${was.family}, ${was.contacts.length} contacts, becomes ${is.family}, ${is.contacts.length}`,
      );
    const [first, second] = [leadOrder(old.landing).join(', '), leadOrder(part.landing).join(', ')];
    if (!EITHER_WAY.has(part.type.kind) && first !== second && old.part === part.part)
      found.push(`contacts in the order ${second}; they were ${first}`);
  }
  if (!samePart(old, part)) found.push(succession(old, part));
  found.push(...volts(after, part));
  const [from, to] = [supplyAt(before, old.landing), supplyAt(after, part.landing)];
  if (from !== undefined && to !== undefined && from !== to) found.push(`supply ${from} V becomes ${to} V`);
  return found;
}

/** Says so when a part would get another voltage than it wants. */
function volts(facts: Facts, part: PlacedPart): string[] {
  const wants = madeForVolts(part.type);
  if (!part.landing || !('leads' in part.landing) || wants === undefined) return [];
  const there = supplyAt(facts, part.landing);
  return there === undefined || fitsVoltage(there, wants)
    ? []
    : [`${part.type.name} wants ${wants} V and would get ${there} V`];
}

const headOf = ({ board }: Facts, leads: Record<string, string>) =>
  headerOf(board, Object.values(leads)[0] ?? '');

/** `STOP-X: ground 2, signal 3` or `socket M1`. */
export function landingInWords(landing: Landing): string {
  if ('socket' in landing) return `socket ${landing.socket}${landing.turned ? ', plug turned' : ''}`;
  const byHeader = new Map<string, string[]>();
  for (const [role, contact] of Object.entries(landing.leads)) {
    const [header = '', at] = contact.split('.');
    byHeader.set(header, [...(byHeader.get(header) ?? []), `${role} ${at}`]);
  }
  const places = [...byHeader].map(([header, leads]) => `${header}: ${leads.join(', ')}`);
  return [...places, ...adaptersInWords(landing).map((words) => `with ${words}`)].join('; ');
}
