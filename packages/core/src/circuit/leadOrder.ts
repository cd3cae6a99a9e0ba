import type { LeadLanding } from '../machine/landing';

/** Parts whose two leads may be exchanged without harm. */
export const EITHER_WAY: ReadonlySet<string> = new Set(['thermistor', 'heater', 'switch']);

/** A contact written `HEADER.number`, taken apart. */
export function parseContact(contact: string): { header: string; number: number } {
  const dot = contact.indexOf('.');
  return { header: contact.slice(0, dot), number: Number(contact.slice(dot + 1)) };
}

/** Headers a landing reaches, in the order of its leads. */
export function headersOf({ leads }: LeadLanding): string[] {
  return [...new Set(Object.values(leads).map((contact) => parseContact(contact).header))];
}

/** Roles as they lie side by side in the plug, header after header. */
export function leadOrder({ leads }: LeadLanding): string[] {
  return Object.entries(leads)
    .map(([role, contact]) => ({ role, ...parseContact(contact) }))
    .sort((a, b) => (a.header < b.header ? -1 : a.header > b.header ? 1 : a.number - b.number))
    .map(({ role }) => role);
}
