import { oncePer } from '../tree/oncePer';
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

const byId = oncePer((parts: Part[]) => new Map(parts.map((part) => [part.id, part])));

/** The part with this id. */
export const partById = ({ parts }: Catalogue, id: string): Part | undefined => byId(parts).get(id);

/** A board of a type and revision. */
export const boardBy = (
  { boards }: Pick<Catalogue, 'boards'>,
  { id, revision }: Pick<Board, 'id' | 'revision'>,
): Board | undefined => boards.find((board) => board.id === id && board.revision === revision);

/** The board that takes images for a target, as their headers name it. */
export const boardTaking = ({ boards }: Pick<Catalogue, 'boards'>, target: string): Board | undefined =>
  boards.find(({ routes }) => routes.some((route) => route.target === target));

/** A board as a person knows it: its name and what is printed of its revision; by its id where the catalogue has lost it. */
export const boardCalled = (
  catalogue: Pick<Catalogue, 'boards'>,
  board: Pick<Board, 'id' | 'revision'>,
): string => `${boardBy(catalogue, board)?.name ?? board.id} rev ${board.revision}`;

/** The chip a board carries. */
export const chipOf = (
  { chips }: Pick<Catalogue, 'chips'>,
  board: Pick<Board, 'chip'> | undefined,
): Chip | undefined => chips.find((chip) => chip.id === board?.chip);
