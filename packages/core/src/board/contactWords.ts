import { parseNet } from './net';

/** Most contacts a header may have. */
const MOST_CONTACTS = 80;

/** Other words for nets without a number. */
const WORDS = new Map(
  Object.entries({
    gnd: 'gnd', g: 'gnd', ground: 'gnd', '-': 'gnd', '0v': 'gnd', '3v3': '3v3', '3.3v': '3v3', '+3.3': '3v3', '5v': '5v', '+5': '5v',
    '12v': '12v', '+12': '12v', vin: 'vin', v: 'vin', '+': 'vin', nc: 'nc', x: 'nc', '?': '?',
  }),
); // prettier-ignore
const PINS = /^(sig:p|p|sw:p|sw|s)?(\d{1,3})(?:(?:\.\.|-)(\d{1,3}))?$/;
const TIMES = /^(.+)\*(\d{1,2})$/;

/**
 * Reads the contacts of a header as one types them, in order, parted by spaces or commas: `5v gnd 10` is a supply, ground
 * and chip pin 10; `s40` a switched output; `20..27` eight pins numbered on; `g*3` three grounds; `nc` nothing; `?` not
 * known yet. Answers nets as a board file writes them.
 * @throws {Error} naming the word that is none, or how many contacts are too many
 */
export function parseContacts(text: string): string[] {
  const words = text.split(/[\s,;]+/).filter((word) => word !== '');
  const nets = words.flatMap((word) => netsOf(word));
  if (nets.length > MOST_CONTACTS)
    throw new Error(`${nets.length} contacts; a header has at most ${MOST_CONTACTS}`);
  return nets;
}

function netsOf(word: string): string[] {
  const [, repeated, times] = TIMES.exec(word) ?? [];
  if (repeated !== undefined) return Array.from({ length: Number(times) }, () => netsOf(repeated)).flat();
  const net = WORDS.get(word.toLowerCase());
  if (net !== undefined) return [net];
  const [, kind = '', from, to = from] = PINS.exec(word.toLowerCase()) ?? [];
  if (from === undefined)
    throw new Error(
      `“${word.slice(0, 20)}” is no contact; write gnd, 3v3, 5v, 12v, vin, a pin number, s with the pin of a switched output, nc, or ? where it is not known`,
    );
  return numbers(Number(from), Number(to)).map((pin) => `${kind.startsWith('s') && kind !== 'sig:p' ? 'sw' : 'sig'}:p${pin}`); // prettier-ignore
}

function numbers(from: number, to: number): number[] {
  const step = to < from ? -1 : 1;
  return Array.from({ length: Math.abs(to - from) + 1 }, (_, index) => from + index * step);
}

/** Writes contacts the short way; `parseContacts` reads the same nets out of it. */
export function contactWords(contacts: readonly string[]): string {
  const words: string[] = [];
  for (let at = 0; at < contacts.length;) {
    const run = runFrom(contacts, at);
    const [first = '', last = ''] = [contacts[at], contacts[at + run - 1]];
    if (run >= 3) words.push(`${shortOf(first)}..${pinOf(last)}`);
    else words.push(...contacts.slice(at, at + run).map(shortOf));
    at += run;
  }
  return words.join(' ');
}

const pinOf = (net: string): number => {
  const parsed = parseNet(net);
  return 'pin' in parsed ? parsed.pin : -1;
};
const shortOf = (net: string): string => net.replace('sig:p', '').replace('sw:p', 's');

/** How many contacts from here on are pins of one kind, each one more than the one before. */
function runFrom(contacts: readonly string[], at: number): number {
  const first = parseNet(contacts[at] ?? '?');
  if (!('pin' in first)) return 1;
  let run = 1;
  while (at + run < contacts.length && contacts[at + run] === netOf(first.kind, first.pin + run)) run += 1;
  return run;
}

const netOf = (kind: 'sig' | 'sw', pin: number): string => `${kind}:p${pin}`;

/** The net that comes after one when numbers go on: the next pin of its kind; supplies and grounds stay what they are. */
export function nextNet(net: string, by = 1): string {
  const parsed = parseNet(net);
  return 'pin' in parsed ? netOf(parsed.kind, parsed.pin + by) : net;
}

/** The contacts of the next header of its kind: each kind of pin goes on where this header's ends. */
export function numberedOn(contacts: readonly string[]): string[] {
  const span = (kind: 'sig' | 'sw'): number => {
    const pins = contacts.map(parseNet).flatMap((net) => (net.kind === kind ? [net.pin] : []));
    return pins.length === 0 ? 0 : Math.max(...pins) - Math.min(...pins) + 1;
  };
  const by = { sig: span('sig'), sw: span('sw') };
  return contacts.map((net) => {
    const parsed = parseNet(net);
    return 'pin' in parsed ? nextNet(net, by[parsed.kind]) : net;
  });
}
