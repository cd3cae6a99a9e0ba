import type { StoredBoard, StoredCard } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

/** Which board of a machine: each one keeps its own flash. */
export interface BoardKey {
  machine: string;
  board: { id: string; revision: string };
}

export async function findBoard(db: Queries, { machine, board }: BoardKey): Promise<StoredBoard | undefined> {
  const [row] = await db.query<{
    image_hash: string | null;
    store: string;
    names_taken: string[];
    card: StoredCard | null;
    boot: StoredBoard['boot'] | null;
    names_written: string[];
  }>(
    `select image_hash, store, names_taken, card, boot, names_written from board
     where machine = $1 and board_id = $2 and board_revision = $3`,
    [machine, board.id, board.revision],
  );
  return (
    row && {
      imageHash: row.image_hash,
      store: row.store,
      namesTaken: row.names_taken,
      card: row.card,
      ...(row.boot && { boot: row.boot }),
      ...(row.names_written.length > 0 && { namesWritten: row.names_written }),
    }
  );
}

export async function saveBoard(
  db: Queries,
  { machine, board }: BoardKey,
  state: StoredBoard,
): Promise<void> {
  await db.query(
    `insert into board (machine, board_id, board_revision, image_hash, store, names_taken, card, boot, names_written)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     on conflict (machine, board_id, board_revision)
     do update set image_hash = $4, store = $5, names_taken = $6, card = $7, boot = $8, names_written = $9`,
    [
      machine,
      board.id,
      board.revision,
      state.imageHash,
      state.store,
      JSON.stringify(state.namesTaken),
      state.card && JSON.stringify(state.card),
      state.boot ? JSON.stringify(state.boot) : null,
      JSON.stringify(state.namesWritten ?? []),
    ],
  );
}
