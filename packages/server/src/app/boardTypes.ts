import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Board } from '@jolly/core/board/board';
import { boardBy } from '@jolly/core/catalogue/catalogue';
import { sameBoardType } from '@jolly/core/machine/same';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Context, transact } from '../context';
import { putOwnBoard } from '../sql/ownBoards';
import { describedAnew } from './describedAnew';
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
  const board = readWhole(
    await context.reading.read('boardFile', { text, chips: catalogue.chips, boards: catalogue.boards }),
  );
  const type = `${board.id} ${board.revision}`;
  const there = boardBy(catalogue, board);
  if (there && !context.ownBoards.has(type))
    throw new Refusal(
      'id-taken',
      `the catalogue has a board "${board.id}" at revision "${board.revision}"; give yours another id`,
      { path: 'id' },
    );
  await transact(context, async (within) => {
    const at = context.now();
    await putOwnBoard(within.db, board, at);
    if (there && !sameValue(there, board))
      await describedAnew(within, `${board.name} rev ${board.revision}`, (machine) =>
        sameBoardType(machine.board, board),
      );
  });
  context.ownBoards.add(type);
  catalogue.boards = [...catalogue.boards.filter((entry) => entry !== boardBy(catalogue, board)), board];
  return board;
}
