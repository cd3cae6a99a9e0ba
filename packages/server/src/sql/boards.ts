import type { Db } from './db.js';

export interface StoredCard {
  format: 'FAT32' | 'exFAT';
  sizeGb: number;
  files: { name: string; imageHash: string }[];
}

/** What a machine's virtual board keeps while it is off, and the card in its slot. */
export interface StoredBoard {
  imageHash: string | null;
  store: string;
  namesTaken: string[];
  card: StoredCard | null;
}

export async function findBoard(db: Db, machine: string): Promise<StoredBoard | undefined> {
  const [row] = await db.query<{
    image_hash: string | null;
    store: string;
    names_taken: string[];
    card: StoredCard | null;
  }>('select image_hash, store, names_taken, card from board where machine = $1', [machine]);
  return row && { imageHash: row.image_hash, store: row.store, namesTaken: row.names_taken, card: row.card };
}

export async function saveBoard(db: Db, machine: string, board: StoredBoard): Promise<void> {
  await db.query(
    `insert into board (machine, image_hash, store, names_taken, card) values ($1, $2, $3, $4, $5)
     on conflict (machine) do update set image_hash = $2, store = $3, names_taken = $4, card = $5`,
    [
      machine,
      board.imageHash,
      board.store,
      JSON.stringify(board.namesTaken),
      board.card && JSON.stringify(board.card),
    ],
  );
}
