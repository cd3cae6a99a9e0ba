import type { ImageHeader } from '@jolly/core/image/imageHeader';
import type { Queries } from './db';

export interface StoredImage {
  hash: string;
  bytes: number;
  /** Missing on an image that is not of ours. */
  header?: ImageHeader;
}

export async function addImage(db: Queries, image: StoredImage): Promise<void> {
  await db.query('insert into image (hash, bytes, header) values ($1, $2, $3) on conflict do nothing', [
    image.hash,
    image.bytes,
    image.header ? JSON.stringify(image.header) : null,
  ]);
}

export async function findImage(db: Queries, hash: string): Promise<StoredImage | undefined> {
  const [row] = await db.query<{ hash: string; bytes: number; header: ImageHeader | null }>(
    'select hash, bytes, header from image where hash = $1',
    [hash],
  );
  return row && { hash: row.hash, bytes: row.bytes, ...(row.header && { header: row.header }) };
}

/** Headers of the images that lie in virtual boards, by hash. */
export async function headersOnBoards(db: Queries): Promise<ReadonlyMap<string, ImageHeader>> {
  const rows = await db.query<{ hash: string; header: ImageHeader }>(
    'select hash, header from image where header is not null and hash in (select image_hash from board)',
  );
  return new Map(rows.map(({ hash, header }) => [hash, header]));
}

/** Hashes of the images that lie in virtual boards. */
export async function hashesOnBoards(db: Queries): Promise<string[]> {
  const rows = await db.query<{ hash: string }>(
    'select distinct image_hash as hash from board where image_hash is not null',
  );
  return rows.map(({ hash }) => hash);
}

export async function dropImages(db: Queries, hashes: readonly string[]): Promise<void> {
  await db.query('delete from image where hash = any($1)', [hashes]);
}
