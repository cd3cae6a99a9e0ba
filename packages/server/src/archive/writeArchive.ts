import { createReadStream } from 'node:fs';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import { writeChipFile } from '@jolly/core/formats/chipFile';
import { writePartFile } from '@jolly/core/formats/partFile';
import type { Machine } from '@jolly/core/machine/machine';
import { ZipFile } from 'yazl';
import { theMachine } from '../app/known';
import type { Context } from '../context';
import type { Queries } from '../sql/db';
import {
  ARCHIVE_VERSION,
  type Carried,
  MANIFEST,
  type Manifest,
  type RowOf,
  type Table,
  TABLES,
} from './layout';

/** A fixed time, so that the same machines make the same bytes. */
const MADE = new Date(Date.UTC(2000, 0, 1));
const OPTIONS = { mtime: MADE, forceDosTimestamp: true } as const;

/**
 * Writes machines with all that belongs to them as one zip: rows as JSON, images and photos under their hashes, own boards,
 * parts and taught lines. Files are streamed one behind the other; none is held whole.
 */
export async function writeArchive(context: Context, ids: readonly string[], out: Writable): Promise<void> {
  const zip = new ZipFile();
  const machines = await Promise.all(ids.map(async (id) => (await theMachine(context, id)).machine));
  const manifest: Manifest = {
    jolly: ARCHIVE_VERSION,
    machines: machines.map(({ id, name }) => ({ id, name })),
  };
  const text = (name: string, content: string) => zip.addBuffer(Buffer.from(content), name, OPTIONS);
  text(MANIFEST, JSON.stringify(manifest));
  const [images, photos] = [new Set<string>(), new Set<string>()];
  for (const machine of machines) {
    const carried = await carriedOf(context.db, machine);
    text(`machines/${machine.id}.json`, JSON.stringify(carried));
    for (const hash of hashesOf(carried)) images.add(hash);
    for (const { hash } of carried.rows.photo) photos.add(String(hash));
  }
  for (const own of ownOf(context, machines)) text(own.name, own.content);
  for (const [folder, store, hashes] of [
    ['images', context.images, images],
    ['photos', context.photos, photos],
  ] as const)
    // prettier-ignore
    for (const hash of [...hashes].sort()) {
      const path = await store.pathOf(hash);
      // Already compressed, or nearly random: packing costs time and gives nothing.
      if (path !== undefined)
        zip.addReadStreamLazy(`${folder}/${hash}`, { ...OPTIONS, compress: false }, (give) =>
          give(null, createReadStream(path)),
        );
    }
  zip.end();
  await pipeline(zip.outputStream, out);
}

/** A machine with all its rows. */
export async function carriedOf(db: Queries, machine: Machine): Promise<Carried> {
  const rows = await Promise.all(
    TABLES.map(async (table): Promise<[Table, RowOf[]]> => [table, await db.query<RowOf>(QUERY[table], [machine.id])]), // prettier-ignore
  );
  return { document: machine, rows: Object.fromEntries(rows) as Record<Table, RowOf[]> }; // by TABLES
}

/** A logbook without what the database makes of it for searching. */
const COLUMNS: Partial<Record<Table, string>> = { entry: 'id, machine, at, kind, summary, detail' };
const OF_MACHINE = (table: Table) =>
  `select ${COLUMNS[table] ?? '*'} from ${table} where machine = $1 order by 1, 2`;
/** Images belong to no machine; those that its rows point at go along. */
const IMAGES = `select distinct image.* from image where hash in (
  select image_hash from flash where machine = $1 union select image_hash from board where machine = $1
  union select image_hash from proof where machine = $1 union select result->>'imageHash' from build where machine = $1
) order by hash`;
const QUERY = Object.fromEntries(
  TABLES.map((table) => [table, table === 'image' ? IMAGES : OF_MACHINE(table)]),
) as Record<Table, string>; // prettier-ignore -- by TABLES

function hashesOf({ rows }: Carried): string[] {
  return [...rows.image.map(({ hash }) => String(hash)), ...rows.kept.map(({ hash }) => String(hash))];
}

/** Own boards with their chips, and parts that the machines use, before or after their jobs; and the lines that were taught. */
function ownOf(context: Context, machines: readonly Machine[]): { name: string; content: string }[] {
  const named = JSON.stringify(machines);
  const { boards, chips, parts, dialects } = context.catalogue;
  const ownBoards = boards.filter(
    ({ id, revision }) => context.ownBoards.has(`${id} ${revision}`) && named.includes(`"${id}"`),
  );
  return [
    // Before the boards that carry them.
    ...chips
      .filter(({ id }) => context.ownChips.has(id) && ownBoards.some(({ chip }) => chip === id))
      .map((chip) => ({ name: `chips/${chip.id}.yaml`, content: writeChipFile(chip) })),
    ...ownBoards.map((board) => ({
      name: `boards/${board.id} ${board.revision}.yaml`,
      content: writeBoardFile(board),
    })),
    ...parts
      .filter(({ id }) => context.ownParts.has(id) && named.includes(`"${id}"`))
      .map((part) => ({ name: `parts/${part.id}.yaml`, content: writePartFile(part) })),
    ...dialects
      .filter(({ id, lines }) => id === 'own' && lines.length > 0)
      .map(({ lines }) => ({ name: 'dialects/own.json', content: JSON.stringify(lines) })),
  ];
}
