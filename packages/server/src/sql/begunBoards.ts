import type { StoredBegunBoard } from '@jolly/contract/endpoints/boardTypes';
import type { BegunBoard } from '@jolly/core/board/begunBoard';
import type { Queries } from './db';
import { draftsIn } from './drafts';

/** Boards that are being described. */
export const describedBoards = draftsIn<BegunBoard, StoredBegunBoard>(
  'begun_board',
  ({ document, ...stored }) => ({ ...stored, begun: document }),
);

/** Whether bytes are the photo of a board that is being described. */
export async function photoOfBegunBoard(db: Queries, hash: string): Promise<boolean> {
  const rows = await db.query(`select id from begun_board where document->'photo'->>'hash' = $1 limit 1`, [
    hash,
  ]);
  return rows.length > 0;
}
