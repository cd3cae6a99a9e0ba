import type { Board, Header } from './board';
import { type Net, parseNet } from './net';
import { oncePer } from '../tree/oncePer';

/** One contact of a header. */
export interface Contact {
  /** As written in a harness: `HEADER.number`. */
  name: string;
  header: Header;
  number: number;
  net: Net;
}

/** Every header contact of a board by its name, in the board's order. Computed once a board. */
export const contactsOf = oncePer(
  (board: Board): ReadonlyMap<string, Contact> =>
    new Map(
      board.headers.flatMap((header) =>
        header.contacts.map((text, index): [string, Contact] => {
          const name = `${header.id}.${index + 1}`;
          return [name, { name, header, number: index + 1, net: parseNet(text) }];
        }),
      ),
    ),
);

/** The net of a contact written `HEADER.number` (numbers start at 1), or undefined when there is no such contact. */
export function contactNet(board: Board, contact: string): Net | undefined {
  return contactsOf(board).get(contact)?.net;
}

/** The header a contact written `HEADER.number` belongs to. */
export function headerOf(board: Board, contact: string): Header | undefined {
  const id = contact.slice(0, contact.indexOf('.'));
  return contactsOf(board).get(`${id}.1`)?.header;
}
