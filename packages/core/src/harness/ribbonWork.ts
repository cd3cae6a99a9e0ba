import type { Board, Header } from '../board/board';
import { contactNet, headerOf } from '../board/contacts';
import type { Net } from '../board/net';
import type { LeadLanding } from '../machine/landing';
import { parseContact } from '../circuit/leadOrder';
import { adapterOf, besideRibbon } from '../circuit/loads';

/** What a part beside a display's ribbon asks of the hands, and how it can sit wrong. */
export interface RibbonWork {
  tasks: string[];
  cautions: string[];
}

/** The work of a lead at an adapter board in a ribbon, or of a wire taken out of it; undefined for every other landing. */
export function ribbonWork(board: Board, landing: LeadLanding): RibbonWork | undefined {
  const id = besideRibbon(landing);
  const header = id === undefined ? undefined : headerOf(board, `${id}.1`);
  if (!header) return undefined;
  const own = Object.entries(landing.leads)
    .map(([role, contact]) => ({ role, ...parseContact(contact) }))
    .filter((lead) => lead.header === header.id);
  return adapterOf(landing, 'tap') ? broughtOut(header, own) : wireOut(board, header, own);
}

type Own = { role: string; number: number }[];

function broughtOut(header: Header, own: Own): RibbonWork {
  const brought = own.map(({ role, number }) => `contact ${number} for ${role}`).join(', ');
  return {
    tasks: [`The lead goes to what the adapter board brings out: ${brought}.`],
    cautions: [`A lead on the wrong contact of it reads the display: count from contact 1 of ${header.id}.`],
  };
}

/** Fitting the adapter board itself, once for all leads that it serves. */
export function adapterBoardWork(board: Board, id: string): RibbonWork | undefined {
  const header = headerOf(board, `${id}.1`);
  if (!header) return undefined;
  return {
    tasks: [
      `Plug the adapter board onto ${id}, the ribbon onto the adapter board, contact 1 over contact 1.`,
    ],
    cautions: [
      `${oneOff(board, header)} Before power, look from both ends: no contact of ${id} may stand free beside it.`,
    ],
  };
}

function wireOut(board: Board, header: Header, own: Own): RibbonWork {
  const taken = own.filter(({ role }) => role === 'signal' || role === 'control');
  return {
    tasks: taken.flatMap(({ role, number }) => [
      `Wire ${number} of the ribbon, counted from its marked edge, which lies at contact 1 of ${header.id}, becomes the ${role} lead.`,
      `Peel it off for 60 mm, cut it on the display's side of the peel, and insulate the end that stays with the display. Its end at ${header.id} goes to the part.`,
      `Lost with it: ${lostAt(board, header, number)}. The ribbon is cut for good.`,
    ]),
    cautions: taken.map(
      ({ number }) =>
        `A wire counted wrong cuts the display: measure from the end you cut to contact ${number} of ${header.id} before you join anything.`,
    ),
  };
}

function lostAt(board: Board, header: Header, number: number): string {
  const net = contactNet(board, `${header.id}.${number}`);
  const use = net?.kind === 'sig' ? (board.uses ?? []).find(({ pins }) => pins.includes(net.pin)) : undefined;
  return use
    ? `the ${use.by} (${use.lost})`
    : `contact ${number}, which this display leaves free and another may need`;
}

const inWords = (net: Net): string => {
  if ('pin' in net) return `pin p${net.pin}`;
  if (net.kind === 'supply') return `${net.source} supply`;
  return { gnd: 'ground', none: 'connected to nothing', unknown: 'not known yet' }[net.kind];
};

/** What meets what when a plug sits one contact off; said only where a supply is on the header. */
function oneOff(board: Board, header: Header): string {
  const nets = header.contacts.map((_net, index) => contactNet(board, `${header.id}.${index + 1}`));
  const supply = nets.findIndex((net) => net?.kind === 'supply');
  const rail = nets[supply];
  const [beside] = [supply + 1, supply - 1].flatMap((index) => {
    const net = nets[index];
    return net && !['supply', 'none', 'unknown'].includes(net.kind) ? [{ index, net }] : [];
  });
  if (!rail || !beside) return 'A plug that sits one contact off joins the wrong contacts.';
  return `A plug that sits one contact off destroys: its ${inWords(rail)} meets contact ${beside.index + 1}, ${inWords(beside.net)}.`;
}
