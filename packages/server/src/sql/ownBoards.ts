import type { Board } from '@jolly/core/board/board';
import type { Queries } from './db';

/** Boards that were described or imported here, beside those of the installed catalogue. */
export async function listOwnBoards(db: Queries): Promise<Board[]> {
  const rows = await db.query<{ document: Board }>('select document from own_board order by id, revision');
  return rows.map((row) => row.document);
}

/** Adds a board type, or replaces the one of the same id and revision that was added before. */
export async function putOwnBoard(db: Queries, board: Board, at: Date): Promise<void> {
  await db.query(
    `insert into own_board (id, revision, document, at) values ($1, $2, $3, $4)
     on conflict (id, revision) do update set document = $3, at = $4`,
    [board.id, board.revision, JSON.stringify(board), at],
  );
}
