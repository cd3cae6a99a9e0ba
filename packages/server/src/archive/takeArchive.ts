import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';
import { boardBy, type Catalogue, chipOf, partById } from '@jolly/core/catalogue/catalogue';
import { readBoardFile } from '@jolly/core/formats/boardFile';
import { readChipFile } from '@jolly/core/formats/chipFile';
import { readPartFile } from '@jolly/core/formats/partFile';
import type { Read } from '@jolly/core/formats/readYaml';
import { freeId } from '@jolly/core/machine/freeId';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import type { Part } from '@jolly/core/parts/part';
import { type DialectLine, dialectSchema } from '@jolly/core/report/dialect';
import { sameValue } from '@jolly/core/tree/sameValue';
import { factsOf } from '../app/known';
import { ownDialect } from '../app/taught';
import { type Context, transact, type Within } from '../context';
import type { Queries } from '../sql/db';
import { addEntry } from '../sql/entries';
import { addMachine, findMachine, takenIds } from '../sql/machines';
import { putOwnBoard } from '../sql/ownBoards';
import { ownChips, ownParts } from '../sql/ownTypes';
import type { Carried, RowOf, Table } from './layout';
import { TABLES } from './layout';
import type { OpenArchive } from './openArchive';
import { carriedOf } from './writeArchive';

/** What an archive's machine is beside what stands here. */
export type State = 'new' | 'same' | 'different';
export interface Planned {
  id: string;
  name: string;
  state: State;
}
/** What becomes of a machine that is different here. */
export type Choice = 'leave' | 'another' | 'replace';

/** What taking an archive in would do; nothing is changed by asking. */
export async function planOf(context: Context, archive: OpenArchive): Promise<Planned[]> {
  return Promise.all(
    archive.manifest.machines.map(async ({ id, name }): Promise<Planned> => ({ id, name, state: await stateOf(context, archive, id) })), // prettier-ignore
  );
}

async function stateOf({ db }: Context, archive: OpenArchive, id: string): Promise<State> {
  const here = await findMachine(db, id);
  if (!here) return 'new';
  const theirs = carriedIn(archive, id);
  return sameValue(told(await carriedOf(db, here.machine)), told(theirs)) ? 'same' : 'different';
}

function carriedIn({ machines }: OpenArchive, id: string): Carried {
  const carried = machines.get(id);
  if (!carried) throw notFound('machine in this archive', id);
  return carried;
}

/** Numbers that the database counts, which differ from one data folder to the next. */
const COUNTED: Readonly<Record<string, readonly string[]>> = { entry: ['id'], proof: ['id'], job: ['id'], kept: ['id'], photo: ['id'], machine_edit: ['id'], waiver: ['ended_with'], due: ['job'], calibration: ['id'] }; // prettier-ignore

/** The line that taking it in adds to a logbook: it tells of the way here, not of the machine. */
const TAKEN_IN = 'Taken in from an archive';

/** What is told of a machine, as it travels. */
function told({ document, rows }: Carried): unknown {
  const plain = TABLES.map((table) => rows[table].filter(({ summary }) => summary !== TAKEN_IN).map((row) => plainRow(table, row)).sort()); // prettier-ignore
  return JSON.parse(JSON.stringify({ document, plain })) as unknown; // as it is written into an archive
}

const plainRow = (table: Table, row: RowOf): string =>
  JSON.stringify(Object.entries(row).filter(([key]) => !COUNTED[table]?.includes(key)).sort()); // prettier-ignore

/**
 * Takes machines in with all that belongs to them, all or nothing. What is the same here stays; of what is different, it
 * must be said what becomes of it.
 * @throws {Refusal} not-so for a machine that is different and undecided, unknown-id for one that does not hold together
 */
export async function takeArchive(
  context: Context,
  archive: OpenArchive,
  choices: Readonly<Record<string, Choice>>,
): Promise<string[]> {
  const plan = await planOf(context, archive);
  const undecided = plan.filter(({ id, state }) => state === 'different' && !choices[id]);
  if (undecided.length > 0)
    throw new Refusal('not-so', `different here: ${undecided.map(({ name }) => name).join(', ')}; say whether to leave them, take them in beside, or put them in their place`); // prettier-ignore
  const wanted = plan.filter(
    ({ id, state }) => state === 'new' || (state === 'different' && choices[id] !== 'leave'),
  );
  if (wanted.length === 0) return [];
  const own = ownIn(context, archive);
  for (const { id } of wanted) refuseUnfit(own.catalogue, carriedIn(archive, id).document);
  // Bytes under their own hashes harm nobody should what follows fail: nothing names them.
  await archive.eachFile(async (kind, hash, bytes) =>
    (kind === 'photo' ? context.photos : context.images).put(hash, bytes),
  );
  const taken = await transact(context, async (within) => {
    for (const chip of own.chips) await ownChips.put(within.db, chip, within.now());
    for (const board of own.boards) await putOwnBoard(within.db, board, within.now());
    for (const part of own.parts) await ownParts.put(within.db, part, within.now());
    const columns = await columnsByTable(within.db);
    const ids: string[] = [];
    for (const { id, state } of wanted) {
      const replaces = state === 'different' && choices[id] === 'replace';
      if (replaces) await makeRoom(within, id);
      const own = state === 'new' || replaces ? id : undefined;
      ids.push(await takeOne(within, carriedIn(archive, id), own, columns));
    }
    return ids;
  });
  Object.assign(context.catalogue, own.catalogue);
  for (const { id, revision } of own.boards) context.ownBoards.add(`${id} ${revision}`);
  for (const { id } of own.parts) context.ownParts.add(id);
  for (const { id } of own.chips) context.ownChips.add(id);
  const taught = ownDialect(context);
  for (const line of own.lines) await taught.teach(line);
  return taken;
}

function refuseUnfit(catalogue: Catalogue, document: unknown): void {
  const { error } = machineSchema().validate(document, { convert: false });
  if (error) throw notTaken(error.message);
  factsOf({ catalogue }, document as Machine); // checked in the line above
}

/** What an archive brings for everybody's use: chips, boards, parts and lines that are not here yet, and the catalogue with them. */
interface Own {
  chips: Chip[];
  boards: Board[];
  parts: Part[];
  lines: DialectLine[];
  catalogue: Catalogue;
}

/** @throws {Refusal} for one that cannot be read, or that is another here */
function ownIn({ catalogue }: Context, { texts }: OpenArchive): Own {
  const [boards, parts, lines]: [Board[], Part[], DialectLine[]] = [[], [], []];
  const chips = texts.filter(({ kind }) => kind === 'chip').flatMap(({ name, text }) => {
    const chip = wholeIn(name, readChipFile(text));
    return isNew(chipOf(catalogue, { chip: chip.id }), chip, chip.id) ? [chip] : [];
  }); // prettier-ignore
  const known = { chips: [...catalogue.chips, ...chips], boards: catalogue.boards };
  const taught = catalogue.dialects.find(({ id }) => id === 'own')?.lines ?? [];
  for (const { kind, name, text } of texts) {
    if (kind === 'dialect')
      lines.push(...linesIn(text).filter((line) => !taught.some((known) => sameValue(known, line))));
    else if (kind === 'board') {
      const board = wholeIn(name, readBoardFile(text, known));
      if (isNew(boardBy(catalogue, board), board, board.id)) boards.push(board);
    } else if (kind === 'part') {
      const part = wholeIn(name, readPartFile(text));
      if (isNew(partById(catalogue, part.id), part, part.id)) parts.push(part);
    }
  }
  const all = { ...known, boards: [...catalogue.boards, ...boards], parts: [...catalogue.parts, ...parts] };
  return { chips, boards, parts, lines, catalogue: { ...catalogue, ...all } };
}

const notTaken = (why: string): Refusal => new Refusal('bad-file', `this archive is not taken: ${why}`);

function wholeIn<T>(name: string, read: Read<T>): T {
  if ('problems' in read) throw notTaken(`${name}: ${read.problems[0].message}`);
  return read.value;
}

function isNew(there: unknown, brought: unknown, id: string): boolean {
  if (there !== undefined && !sameValue(there, brought))
    throw new Refusal('id-taken', `this archive is not taken: its “${id}” is another than the one here`);
  return there === undefined;
}

function linesIn(text: string): DialectLine[] {
  const dialect = { jolly: 'dialect/1', id: 'own', name: 'own', lines: readJson(text) };
  const { error } = dialectSchema().validate(dialect, { convert: false });
  if (error) throw notTaken(`its taught lines: ${error.message}`);
  return dialect.lines as DialectLine[]; // checked in the line above
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text) as unknown; // anything
  } catch {
    throw notTaken('its taught lines cannot be read');
  }
}

/** Of another machine of the same id only what it is, its logbook, photos and kept files come along. */
const OF_ANOTHER: readonly Table[] = ['entry', 'image', 'kept', 'photo', 'calibration'];

/** Takes a machine away with all its rows, for another to come in its place. Bytes stay: others may name them. */
async function makeRoom({ db }: Within, id: string): Promise<void> {
  for (const table of TABLES.filter((name) => name !== 'image').reverse())
    await db.query(`delete from ${table} where machine = $1`, [id]); // a name out of the list of tables
  await db.query('delete from machine where id = $1', [id]);
}

async function takeOne(
  within: Within,
  { document, rows }: Carried,
  id: string | undefined,
  columns: ReadonlyMap<string, Column[]>,
): Promise<string> {
  const given = document as Machine; // checked by refuseUnfit
  const own = id ?? freeId(given.name, await takenIds(within.db));
  const at = within.now();
  if (!(await addMachine(within.db, { ...given, id: own }, at)))
    throw new Refusal('id-taken', `there is already a machine "${own}"`, { path: 'id' });
  const jobs = new Map<unknown, unknown>();
  for (const table of TABLES.filter((name) => id !== undefined || OF_ANOTHER.includes(name)))
    for (const row of rows[table])
      await addRow(within.db, { table, columns: columns.get(table) ?? [] }, row, own, jobs);
  await addEntry(within.db, own, { at, kind: 'note', summary: id === undefined ? `${TAKEN_IN}, beside another of its name; its jobs, builds and proofs stayed there` : TAKEN_IN }); // prettier-ignore
  return own;
}

interface Column {
  name: string;
  json: boolean;
  counted: boolean;
}
/** The columns of every table, as the schema has them here. */
async function columnsByTable(db: Queries): Promise<ReadonlyMap<string, Column[]>> {
  const found = await db.query<{
    table_name: string;
    column_name: string;
    data_type: string;
    is_identity: string;
  }>(
    `select table_name, column_name, data_type, is_identity from information_schema.columns
     where table_schema = 'public' and is_generated = 'NEVER'`,
  );
  const tables = new Map<string, Column[]>();
  for (const { table_name, column_name: name, data_type, is_identity } of found)
    tables.set(table_name, [...(tables.get(table_name) ?? []), { name, json: data_type === 'jsonb', counted: is_identity === 'YES' }]); // prettier-ignore
  return tables;
}

/** Writes a row as it came, under this machine, with jobs by the numbers they have here. */
async function addRow(
  db: Queries,
  { table, columns }: { table: Table; columns: readonly Column[] },
  row: RowOf,
  machine: string,
  jobs: Map<unknown, unknown>,
): Promise<void> {
  const stray = Object.keys(row).find((key) => !columns.some(({ name }) => name === key));
  if (stray !== undefined) throw notTaken(`${table} has no “${stray.slice(0, 40)}” here`);
  const given = columns.filter(({ name, counted }) => !counted && name in row);
  const values = given.map(({ name, json }) => {
    if (name === 'machine') return machine;
    const value = row[name];
    if (name === 'ended_with' || (table === 'due' && name === 'job')) return jobs.get(value) ?? null;
    return json && value !== null ? JSON.stringify(value) : value;
  });
  const places = given.map((_column, index) => `$${index + 1}`).join(', ');
  const names = given.map(({ name }) => name).join(', ');
  const again = table === 'image' ? ' on conflict do nothing' : '';
  const answer = table === 'job' ? ' returning id' : '';
  const [made] = await db.query<{ id?: unknown }>(
    `insert into ${table} (${names}) values (${places})${again}${answer}`,
    values,
  ); // prettier-ignore -- names out of the schema itself
  if (table === 'job') jobs.set(row['id'], made?.id);
}
