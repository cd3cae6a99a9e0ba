import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { ApiError, notFound } from './api/apiError';
import { join } from 'node:path';
import { type ByteStore, folderStore } from './files/byteStore';
import { loadCatalogue } from './files/catalogue';
import { loadOwnDialect } from './files/ownDialect';
import { paths } from './paths';
import type { Reading } from './reading/reading';
import type { Db } from './sql/db';
import { listOwnBoards } from './sql/ownBoards';
import { findMachine, type StoredMachine } from './sql/machines';

/** What every part of the server works with. */
export interface Context {
  /** The installed checkout, from which kits and the catalogue are read. */
  root: string;
  /** Folder of what is kept. */
  data: string;
  db: Db;
  /** The installed catalogue, the boards that were added here, and the lines that were taught (dialect `own`). */
  catalogue: Catalogue;
  /** Id and revision of every board that was added here. */
  ownBoards: Set<string>;
  /** Images and other kept files, by the hash of their bytes. */
  images: ByteStore;
  photos: ByteStore;
  /** Reads what comes from outside. */
  reading: Reading;
  now: () => Date;
  /** Folder of the demo's files for each machine; only the demo has one. */
  drawer?: string;
}

/** What is kept in a data folder and what is installed, brought together. */
export async function openContext(
  { root, data, demo, now }: { root: string; data: string; demo: boolean; now: () => Date },
  db: Db,
  reading: Reading,
): Promise<Context> {
  const at = paths(root, data);
  const [catalogue, ownDialect, own] = await Promise.all([
    loadCatalogue(root),
    loadOwnDialect(data),
    listOwnBoards(db),
  ]);
  return {
    root,
    data,
    db,
    catalogue: {
      ...catalogue,
      boards: [...catalogue.boards, ...own],
      dialects: [...catalogue.dialects, ownDialect],
    },
    ownBoards: new Set(own.map((board) => `${board.id} ${board.revision}`)),
    images: folderStore(at.images),
    photos: folderStore(at.photos),
    reading,
    now,
    ...(demo && { drawer: join(root, 'catalogue/demo/drawer') }),
  };
}

/** A stored machine. @throws {ApiError} 404 */
export async function machineOr404(context: Context, id: string): Promise<StoredMachine> {
  const stored = await findMachine(context.db, id);
  if (!stored) throw notFound('machine', id);
  return stored;
}

/** The facts of a machine. @throws {ApiError} 422 naming the first thing that does not hold together */
export function factsOr422(context: Context, machine: Machine): Facts {
  const resolved = resolve(machine, context.catalogue);
  if ('facts' in resolved) return resolved.facts;
  throw new ApiError(422, 'unknown-id', resolved.problems[0]!.message, {
    path: resolved.problems[0]!.path,
    problems: resolved.problems,
  });
}
