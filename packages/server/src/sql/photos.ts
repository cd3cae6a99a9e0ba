import type { StoredPhoto } from '@jolly/contract/endpoints/photos';
import { one, type Queries } from './db';

interface Row extends Omit<StoredPhoto, 'id' | 'board' | 'at'> {
  id: string | number;
  board_id: string;
  board_revision: string;
  at: Date;
}
const COLUMNS = 'id, board_id, board_revision, hash, type, title, width, height, pins, at';
const stored = ({ id, board_id, board_revision, at, ...row }: Row): StoredPhoto => ({
  ...row,
  id: Number(id),
  board: { id: board_id, revision: board_revision },
  at: at.toISOString(),
});

export async function listPhotos(db: Queries, machine: string): Promise<StoredPhoto[]> {
  return (
    await db.query<Row>(
      `select ${COLUMNS} from photo where machine = $1 and removed_at is null order by at, id`,
      [machine],
    )
  ).map(stored);
}

export async function findPhoto(db: Queries, machine: string, id: number): Promise<StoredPhoto | undefined> {
  const [row] = await db.query<Row>(
    `select ${COLUMNS} from photo where machine = $1 and id = $2 and removed_at is null`,
    [machine, id],
  );
  return row && stored(row);
}

export async function addPhoto(
  db: Queries,
  machine: string,
  photo: Omit<StoredPhoto, 'id' | 'at'> & { at: Date },
): Promise<StoredPhoto> {
  const [row] = await db.query<Row>(
    `insert into photo (machine, board_id, board_revision, hash, type, title, width, height, pins, at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning ${COLUMNS}`,
    [
      machine, photo.board.id, photo.board.revision, photo.hash, photo.type, photo.title, photo.width, photo.height,
      JSON.stringify(photo.pins), photo.at,
    ], // prettier-ignore
  );
  return stored(one(row));
}

export async function savePhoto(
  db: Queries,
  machine: string,
  id: number,
  { title, pins }: Pick<StoredPhoto, 'title' | 'pins'>,
): Promise<StoredPhoto | undefined> {
  const [row] = await db.query<Row>(
    `update photo set title = $3, pins = $4 where machine = $1 and id = $2 and removed_at is null returning ${COLUMNS}`,
    [machine, id, title, JSON.stringify(pins)],
  );
  return row && stored(row);
}

/** Takes a photo out of sight, or (with null) puts it back; undefined when it is not there, or not out of sight. */
export async function setRemoved(
  db: Queries,
  machine: string,
  id: number,
  at: Date | null,
): Promise<StoredPhoto | undefined> {
  const [row] = await db.query<Row>(
    `update photo set removed_at = $3
     where machine = $1 and id = $2 and (removed_at is null) = ($3::timestamptz is not null) returning ${COLUMNS}`,
    [machine, id, at],
  );
  return row && stored(row);
}

/** Deletes the row of a removed photo and answers the hash of its bytes. */
export async function forgetPhoto(db: Queries, machine: string, id: number): Promise<string | undefined> {
  const [row] = await db.query<{ hash: string }>(
    'delete from photo where machine = $1 and id = $2 and removed_at is not null returning hash',
    [machine, id],
  );
  return row?.hash;
}

export async function removedBefore(db: Queries, at: Date): Promise<{ machine: string; id: number }[]> {
  const rows = await db.query<{ machine: string; id: string | number }>(
    'select machine, id from photo where removed_at < $1',
    [at],
  );
  return rows.map(({ machine, id }) => ({ machine, id: Number(id) }));
}

/** Whether bytes belong to another photo, or to an image or something else that is kept. */
export async function hashInUse(db: Queries, hash: string): Promise<{ photo: boolean; other: boolean }> {
  const [row] = await db.query<{ photo: boolean; other: boolean }>(
    `select exists (select from photo where hash = $1) as photo,
       exists (select from image where hash = $1) or exists (select from kept where hash = $1) as other`,
    [hash],
  );
  return one(row);
}
