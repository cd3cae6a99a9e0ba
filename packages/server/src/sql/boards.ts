import type { StoredBoard, StoredCard } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

/** Which board of a machine: each one keeps its own flash. */
export interface BoardKey {
  machine: string;
  board: { id: string; revision: string; copy?: number | undefined };
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
     where machine = $1 and board_id = $2 and board_revision = $3 and board_copy = $4`,
    [machine, board.id, board.revision, board.copy ?? 1],
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

/** The image in each virtual board that was flashed, and what that stores. */
export async function flashedBoards(
  db: Queries,
): Promise<(key: BoardKey) => { imageHash: string; store: string } | undefined> {
  const rows = await db.query<{
    machine: string;
    board_id: string;
    board_revision: string;
    board_copy: number;
    image_hash: string;
    store: string;
  }>(
    'select machine, board_id, board_revision, board_copy, image_hash, store from board where image_hash is not null',
  );
  const name = (...words: readonly (string | number)[]) => words.join(' ');
  const flashed = new Map(
    rows.map((row) => [
      name(row.machine, row.board_id, row.board_revision, row.board_copy),
      { imageHash: row.image_hash, store: row.store },
    ]),
  );
  return ({ machine, board }) => flashed.get(name(machine, board.id, board.revision, board.copy ?? 1));
}

export async function saveBoard(
  db: Queries,
  { machine, board }: BoardKey,
  state: StoredBoard,
): Promise<void> {
  await db.query(
    `insert into board (machine, board_id, board_revision, image_hash, store, names_taken, card, boot, names_written, board_copy)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
     on conflict (machine, board_id, board_revision, board_copy)
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
      board.copy ?? 1,
    ],
  );
}
