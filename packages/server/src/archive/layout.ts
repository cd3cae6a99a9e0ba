import Joi from 'joi';

/** What an archive holds, by the names of its entries. Paths are made from ids and hashes, and are read by these patterns only. */
export const MANIFEST = 'manifest.json';
export const ENTRIES = {
  machine: /^machines\/([a-z0-9]+(?:-[a-z0-9]+)*)\.json$/,
  image: /^images\/([0-9a-f]{64})$/,
  photo: /^photos\/([0-9a-f]{64})$/,
  board: /^boards\/([a-z0-9-]{1,60}) ([A-Za-z0-9.]{1,12})\.yaml$/,
  chip: /^chips\/([a-z0-9]+(?:-[a-z0-9]+)*)\.yaml$/,
  part: /^parts\/([a-z0-9]+(?:-[a-z0-9]+)*)\.yaml$/,
  dialect: /^dialects\/own\.json$/,
} as const;
export type EntryKind = keyof typeof ENTRIES;

/** Which kind an entry is; undefined for a name no archive of ours has. */
export function kindOf(name: string): EntryKind | undefined {
  for (const [kind, pattern] of Object.entries(ENTRIES)) if (pattern.test(name)) return kind as EntryKind; // by its keys
  return undefined;
}

export const ARCHIVE_VERSION = 'archive/1';
export interface Manifest {
  jolly: typeof ARCHIVE_VERSION;
  machines: { id: string; name: string }[];
}
export const manifestSchema = Joi.object<Manifest>({
  jolly: Joi.valid(ARCHIVE_VERSION).required(),
  machines: Joi.array()
    .items(Joi.object({ id: Joi.string().max(40).required(), name: Joi.string().max(40).required() }))
    .unique('id')
    .min(1)
    .max(1000)
    .required(),
});

/** Tables with rows of a machine, in the order in which they can be written: what is pointed at comes first. */
export const TABLES = ['entry', 'image', 'build', 'flash', 'board', 'proof', 'job', 'kept', 'waiver', 'photo', 'machine_edit', 'due', 'calibration', 'policy', 'turned_screws', 'first_power'] as const; // prettier-ignore
export type Table = (typeof TABLES)[number];
/** Tables that archives of before they were there do without. */
export const LATER_TABLES: ReadonlySet<Table> = new Set<Table>([
  'calibration',
  'policy',
  'turned_screws',
  'first_power',
]);
export type RowOf = Readonly<Record<string, unknown>>;
/** A machine with everything that happened to it. */
export interface Carried {
  document: unknown;
  rows: Readonly<Record<Table, RowOf[]>>;
}

/** Bounds of what is taken in; a shelf of 200 photos and 200 images is a third of it. */
export const MOST = { entries: 20_000, bytes: 4 * 2 ** 30, entryBytes: 64 * 2 ** 20, ratio: 400 } as const;
