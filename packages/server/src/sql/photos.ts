import type { Photo } from '@jolly/core';
import type { Db } from './db.js';

/** A place on a photo: shares of its width and height, and what is there. */
export interface Pin {
  x: number;
  y: number;
  label: string;
  /** The header it shows. */
  header?: string;
}
export interface StoredPhoto {
  id: number;
  board: { id: string; revision: string };
  hash: string;
  type: Photo['type'];
  title: string;
  width: number;
  height: number;
  pins: Pin[];
  at: string;
}

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

export async function listPhotos(db: Db, machine: string): Promise<StoredPhoto[]> {
  return (
    await db.query<Row>(`select ${COLUMNS} from photo where machine = $1 order by at, id`, [machine])
  ).map(stored);
}

export async function findPhoto(db: Db, machine: string, id: number): Promise<StoredPhoto | undefined> {
  const [row] = await db.query<Row>(`select ${COLUMNS} from photo where machine = $1 and id = $2`, [
    machine,
    id,
  ]);
  return row && stored(row);
}

export async function addPhoto(
  db: Db,
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
  return stored(row!);
}

export async function savePhoto(
  db: Db,
  machine: string,
  id: number,
  { title, pins }: Pick<StoredPhoto, 'title' | 'pins'>,
): Promise<StoredPhoto | undefined> {
  const [row] = await db.query<Row>(
    `update photo set title = $3, pins = $4 where machine = $1 and id = $2 returning ${COLUMNS}`,
    [machine, id, title, JSON.stringify(pins)],
  );
  return row && stored(row);
}

export async function dropPhoto(db: Db, machine: string, id: number): Promise<boolean> {
  return (
    (await db.query('delete from photo where machine = $1 and id = $2 returning id', [machine, id])).length >
    0
  );
}
