import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Board } from '@jolly/core/board/board';
import { boardBy } from '@jolly/core/catalogue/catalogue';
import type { Context } from '../context';
import { putOwnBoard } from '../sql/ownBoards';
import { readWhole } from './readWhole';

/** A board type of the catalogue. @throws {Refusal} not-found */
export function boardType({ catalogue }: Pick<Context, 'catalogue'>, id: string, revision: string): Board {
  const board = boardBy(catalogue, { id, revision });
  if (!board) throw notFound('board', `${id} rev ${revision}`);
  return board;
}

/** Adds a board type from the text of a board file, or replaces one that was added here before. */
export async function addBoardType(context: Context, text: string): Promise<Board> {
  const { catalogue } = context;
  const board = readWhole(await context.reading.read('boardFile', { text, chips: catalogue.chips }));
  const type = `${board.id} ${board.revision}`;
  const there = boardBy(catalogue, board);
  if (there && !context.ownBoards.has(type))
    throw new Refusal(
      'id-taken',
      `the catalogue has a board "${board.id}" at revision "${board.revision}"; give yours another id`,
      { path: 'id' },
    );
  await putOwnBoard(context.db, board, context.now());
  context.ownBoards.add(type);
  catalogue.boards = [...catalogue.boards.filter((entry) => entry !== boardBy(catalogue, board)), board];
  return board;
}
