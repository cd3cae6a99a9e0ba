import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import type { Programmer } from '../board/programmer';
import type { Dialect } from '../report/dialect';
import type { Kit } from '../kit/kit';
import type { Part } from '../parts/part';

/** Everything machines are made of, as read from the catalogue's files. */
export interface Catalogue {
  boards: Board[];
  chips: Chip[];
  parts: Part[];
  kits: Kit[];
  dialects: Dialect[];
  programmers: Programmer[];
}

/** A list of parts never changes once it is read, so its index is made once. */
const indexes = new WeakMap<Part[], Map<string, Part>>();

/** The part with this id. */
export function partById({ parts }: Catalogue, id: string): Part | undefined {
  let index = indexes.get(parts);
  if (!index) {
    index = new Map(parts.map((part) => [part.id, part]));
    indexes.set(parts, index);
  }
  return index.get(id);
}

/** A board of a type and revision. */
export const boardBy = (
  { boards }: Pick<Catalogue, 'boards'>,
  { id, revision }: Pick<Board, 'id' | 'revision'>,
): Board | undefined => boards.find((board) => board.id === id && board.revision === revision);

/** The chip a board carries. */
export const chipOf = (
  { chips }: Pick<Catalogue, 'chips'>,
  board: Pick<Board, 'chip'> | undefined,
): Chip | undefined => chips.find((chip) => chip.id === board?.chip);
