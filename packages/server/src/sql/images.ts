import type { ImageHeader } from '@jolly/core';
import type { Db } from './db.js';

export interface StoredImage {
  hash: string;
  bytes: number;
  header: ImageHeader;
}

export async function addImage(db: Db, image: StoredImage): Promise<void> {
  await db.query('insert into image (hash, bytes, header) values ($1, $2, $3) on conflict do nothing', [
    image.hash,
    image.bytes,
    JSON.stringify(image.header),
  ]);
}

export async function findImage(db: Db, hash: string): Promise<StoredImage | undefined> {
  return (await db.query<StoredImage>('select hash, bytes, header from image where hash = $1', [hash]))[0];
}
