import type { Board } from '../board/board';
import type { Facts } from './facts';
import type { Machine, MachinePart } from './machine';

type OneOf = { copy?: number | undefined };
const sameCopy = (one: OneOf, other: OneOf): boolean => (one.copy ?? 1) === (other.copy ?? 1);

type BoardType = Pick<Board, 'id' | 'revision'>;
/** Whether two boards are of one type and revision. */
export const sameBoardType = (one: BoardType, other: BoardType): boolean =>
  one.id === other.id && one.revision === other.revision;

/** Whether two states of a machine have the very same board: not one of another type, nor another copy of it. */
export const sameBoard = ({ board: one }: Pick<Machine, 'board'>, { board: other }: Pick<Machine, 'board'>): boolean =>
  sameBoardType(one, other) && sameCopy(one, other); // prettier-ignore

/** Whether two states of a machine have the very same part in a place: not one of another type, nor another copy of it. */
export const samePart = (one: MachinePart, other: MachinePart): boolean =>
  one.part === other.part && sameCopy(one, other);

/** The count of the next copy of something. */
export const nextCopy = ({ copy }: OneOf): number => (copy ?? 1) + 1;

/** The board of a machine as it is called; which copy it is, where it is not the first. */
export const boardInWords = ({
  board: { name, revision },
  machine: {
    board: { copy },
  },
}: Pick<Facts, 'board' | 'machine'>): string =>
  `${name} rev ${revision}${copy === undefined ? '' : `, copy ${copy}`}`;
