import type { StoredBegunBoard } from '@jolly/contract/endpoints/boardTypes';
import type { BegunBoard } from '@jolly/core/board/begunBoard';
import { one, type Queries } from './db';

interface Row {
  id: string;
  version: number;
  document: BegunBoard;
  changed_at: Date;
}
const COLUMNS = 'id, version, document, changed_at';
const stored = ({ id, version, document, changed_at }: Row): StoredBegunBoard => ({
  id,
  version,
  begun: document,
  changedAt: changed_at.toISOString(),
});

export async function listBegunBoards(db: Queries): Promise<StoredBegunBoard[]> {
  return (await db.query<Row>(`select ${COLUMNS} from begun_board order by changed_at desc, id`)).map(stored);
}

export async function findBegunBoard(db: Queries, id: string): Promise<StoredBegunBoard | undefined> {
  const [row] = await db.query<Row>(`select ${COLUMNS} from begun_board where id = $1`, [id]);
  return row && stored(row);
}

export async function addBegunBoard(
  db: Queries,
  id: string,
  begun: BegunBoard,
  at: Date,
): Promise<StoredBegunBoard> {
  const [row] = await db.query<Row>(
    `insert into begun_board (id, version, document, changed_at) values ($1, 1, $2, $3) returning ${COLUMNS}`,
    [id, JSON.stringify(begun), at],
  );
  return stored(one(row));
}

/** Saves one over the version it was made from; undefined when that is no longer the newest. */
export async function saveBegunBoard(
  db: Queries,
  id: string,
  begun: BegunBoard,
  fromVersion: number,
  at: Date,
): Promise<StoredBegunBoard | undefined> {
  const [row] = await db.query<Row>(
    `update begun_board set document = $2, version = version + 1, changed_at = $4 where id = $1 and version = $3 returning ${COLUMNS}`,
    [id, JSON.stringify(begun), fromVersion, at],
  );
  return row && stored(row);
}

export async function dropBegunBoard(db: Queries, id: string): Promise<void> {
  await db.query('delete from begun_board where id = $1', [id]);
}

/** Whether bytes are the photo of a board that is being described. */
export async function photoOfBegunBoard(db: Queries, hash: string): Promise<boolean> {
  const rows = await db.query(`select id from begun_board where document->'photo'->>'hash' = $1 limit 1`, [
    hash,
  ]);
  return rows.length > 0;
}
