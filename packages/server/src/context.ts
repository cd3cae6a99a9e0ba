import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { join } from 'node:path';
import { type ByteStore, folderStore } from './files/byteStore';
import { loadCatalogue } from './files/catalogue';
import { loadOwnDialect } from './files/ownDialect';
import { paths } from './paths';
import type { Reading } from './reading/reading';
import type { Db, Queries } from './sql/db';
import { demoIds } from './sql/machines';
import { ownChips, ownParts } from './sql/ownTypes';
import { listOwnBoards } from './sql/ownBoards';

/** What every part of the server works with; inside a transaction only `Queries` are left of the database. */
export interface Context<Database extends Queries = Db> {
  /** The installed checkout, from which kits and the catalogue are read. */
  root: string;
  /** Folder of what is kept. */
  data: string;
  db: Database;
  /** The installed catalogue, the boards that were added here, and the lines that were taught (dialect `own`). */
  catalogue: Catalogue;
  /** Id and revision of every board that was added here. */
  ownBoards: Set<string>;
  /** Id of every part that was added here. */
  ownParts: Set<string>;
  /** Id of every chip that was added here. */
  ownChips: Set<string>;
  /** Images and other kept files, by the hash of their bytes. */
  images: ByteStore;
  photos: ByteStore;
  /** Reads what comes from outside. */
  reading: Reading;
  /** Runs again what a proof rests on: another thread, with more time. */
  replaying: Reading;
  now: () => Date;
  /** Folder of the demo's files for each machine; only where the demo was laid. */
  drawer?: string;
}

/** What there is to work with inside a transaction, or where none is needed: neither `close` nor another transaction. */
export type Within = Context<Queries>;

/** Runs a use-case all or nothing, from its reading to its writing. */
export const transact = <T>(context: Context, run: (within: Within) => Promise<T>): Promise<T> =>
  context.db.transaction((db) => run({ ...context, db }));

/** Bytes of images that stay in memory: a flash reads the same one several times. */
const IMAGES_HELD = 8 * 2 ** 20;

/** What is kept in a data folder and what is installed, brought together. */
export async function openContext(
  { root, data, demo, now }: { root: string; data: string; demo: boolean; now: () => Date },
  db: Db,
  threads: Pick<Context, 'reading' | 'replaying'>,
): Promise<Context> {
  const at = paths(root, data);
  const [catalogue, ownDialect, own, parts, chips, laid] = await Promise.all([
    loadCatalogue(root),
    loadOwnDialect(data),
    listOwnBoards(db),
    ownParts.list(db),
    ownChips.list(db),
    demoIds(db),
  ]);
  return {
    root,
    data,
    db,
    catalogue: {
      ...catalogue,
      boards: [...catalogue.boards, ...own],
      parts: [...catalogue.parts, ...parts],
      chips: [...catalogue.chips, ...chips],
      dialects: [...catalogue.dialects, ownDialect],
    },
    ownParts: new Set(parts.map(({ id }) => id)),
    ownChips: new Set(chips.map(({ id }) => id)),
    ownBoards: new Set(own.map((board) => `${board.id} ${board.revision}`)),
    images: folderStore(at.images, IMAGES_HELD),
    // Sent once each, and kept by the browser.
    photos: folderStore(at.photos, 0),
    ...threads,
    now,
    ...((demo || laid.length > 0) && { drawer: join(root, 'catalogue/demo/drawer') }),
  };
}
