import { Refusal } from '@jolly/contract/refusal';
import { ENTRY_KINDS } from '@jolly/contract/endpoints/machines';
import { oneOf } from '@jolly/core/tree/keysOf';
import { type Entry, fromFd, type ZipFile } from 'yauzl';
import { open } from 'node:fs/promises';
import { hashOf } from '../files/byteStore';
import { type Carried, type EntryKind, kindOf, LATER_TABLES, MANIFEST, type Manifest, manifestSchema, MOST, TABLES } from './layout'; // prettier-ignore

/** An archive that was looked through from end to end, and holds what its manifest says. */
export interface OpenArchive {
  manifest: Manifest;
  /** By id. */
  machines: ReadonlyMap<string, Carried>;
  /** Own boards, parts and taught lines, as text. */
  texts: readonly { kind: 'board' | 'chip' | 'part' | 'dialect'; name: string; text: string }[];
  /** Goes through images and photos, one at a time. */
  eachFile(take: (kind: 'image' | 'photo', hash: string, bytes: Uint8Array) => Promise<void>): Promise<void>;
  close(): Promise<void>;
}

const refused = (why: string): Refusal => new Refusal('bad-file', `this archive is not taken: ${why}`);

/**
 * Looks an archive through before anything of it is taken: names, sizes, sums, the manifest and every row.
 * @throws {Refusal} bad-file, naming the first thing that is not as it should be
 */
export async function openArchive(path: string): Promise<OpenArchive> {
  const handle = await open(path, 'r');
  try {
    const zip = await opened(handle.fd);
    const entries = await entriesOf(zip);
    const archive = await readThrough(zip, entries);
    return { ...archive, close: () => handle.close() };
  } catch (error) {
    await handle.close();
    throw error instanceof Refusal ? error : refused(error instanceof Error ? error.message : String(error));
  }
}

const opened = (fd: number): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    fromFd(fd, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, zip) =>
      error ? reject(error) : resolve(zip),
    ),
  );

/** The directory of the zip. Names decide nothing but their kind; sizes are bounded before a byte is unpacked. */
async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const found = new Map<string, Entry>();
  let bytes = 0;
  await new Promise<void>((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      const { fileName: name, uncompressedSize, compressedSize } = entry;
      bytes += uncompressedSize;
      if (name !== MANIFEST && kindOf(name) === undefined) return reject(refused(`it holds “${name.slice(0, 80)}”, which no archive of ours does`)); // prettier-ignore
      if (found.has(name)) return reject(refused(`it holds “${name}” twice`));
      if (found.size >= MOST.entries) return reject(refused(`it holds more than ${MOST.entries} files`));
      if (uncompressedSize > MOST.entryBytes || bytes > MOST.bytes) return reject(refused(`“${name}” is larger than anything we keep`)); // prettier-ignore
      if (uncompressedSize > MOST.ratio * Math.max(1, compressedSize)) return reject(refused(`“${name}” unpacks to ${uncompressedSize} bytes out of ${compressedSize}`)); // prettier-ignore
      found.set(name, entry);
      zip.readEntry();
    });
    zip.on('end', resolve);
    zip.on('error', reject);
    zip.readEntry();
  });
  return found;
}

/** The bytes of an entry; yauzl refuses one that is longer or shorter than its directory says, or whose CRC is wrong. */
function bytesOf(zip: ZipFile, entry: Entry): Promise<Buffer> {
  return new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(error);
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => resolve(Buffer.concat(pieces)));
      stream.on('error', reject);
    }),
  );
}

async function readThrough(zip: ZipFile, entries: Map<string, Entry>): Promise<Omit<OpenArchive, 'close'>> {
  const first = entries.get(MANIFEST);
  if (!first) throw refused(`it has no ${MANIFEST}`);
  const manifest = readManifest(await bytesOf(zip, first));
  const machines = new Map<string, Carried>();
  const texts: { kind: 'board' | 'chip' | 'part' | 'dialect'; name: string; text: string }[] = [];
  const files: { kind: 'image' | 'photo'; hash: string; entry: Entry }[] = [];
  for (const [name, entry] of entries) {
    if (name === MANIFEST) continue;
    const kind = kindOf(name) as EntryKind; // looked at when the directory was read
    const bytes = await bytesOf(zip, entry);
    if (kind === 'machine')
      machines.set(name.slice('machines/'.length, -'.json'.length), readCarried(name, bytes));
    else if (kind === 'image' || kind === 'photo') {
      const hash = name.slice(name.indexOf('/') + 1);
      if (hashOf(bytes) !== hash) throw refused(`the sum of “${name}” is not its own`);
      files.push({ kind, hash, entry });
    } else texts.push({ kind, name, text: bytes.toString('utf8') });
  }
  refuseMissing(manifest, machines, new Set(files.map(({ hash }) => hash)));
  return {
    manifest,
    machines,
    texts,
    async eachFile(take) {
      for (const { kind, hash, entry } of files) await take(kind, hash, await bytesOf(zip, entry));
    },
  };
}

function readManifest(bytes: Buffer): Manifest {
  const said = parsed(MANIFEST, bytes);
  const version = /^archive\/(\d+)$/.exec(String(isRecord(said) ? said['jolly'] : ''))?.[1];
  if (version !== undefined && Number(version) > 1)
    throw refused(`it is archive/${version}, and this program reads archive/1; update Jolly Cog to take it`);
  const { error } = manifestSchema.validate(said, { convert: false });
  if (error) throw refused(`${MANIFEST}: ${error.message}`);
  return said as Manifest; // checked in the line above
}

function parsed(name: string, bytes: Buffer): unknown {
  try {
    return JSON.parse(bytes.toString('utf8')) as unknown; // anything
  } catch {
    throw refused(`“${name}” cannot be read`);
  }
}

const isRecord = (value: unknown): value is Record<string, unknown> => value !== null && typeof value === 'object' && !Array.isArray(value); // prettier-ignore

function readCarried(name: string, bytes: Buffer): Carried {
  const said = parsed(name, bytes);
  if (!isRecord(said) || !isRecord(said['rows']) || !isRecord(said['document']))
    throw refused(`“${name}” is no machine with its rows`);
  const { rows } = said;
  for (const table of TABLES) {
    if (rows[table] === undefined && LATER_TABLES.has(table)) rows[table] = [];
    const list = rows[table];
    if (!Array.isArray(list) || !list.every(isRecord)) throw refused(`“${name}” has no rows of ${table}`);
  }
  const { entry } = rows as unknown as Carried['rows']; // every table was just looked at
  if (!entry.every(({ kind }) => oneOf(ENTRY_KINDS, String(kind))))
    throw refused(`“${name}” has a logbook line of a kind that there is not`);
  return said as unknown as Carried; // as above
}

/** Each machine of the manifest is there and no other, and every image and photo its rows name. */
function refuseMissing(
  { machines: named }: Manifest,
  machines: ReadonlyMap<string, Carried>,
  files: ReadonlySet<string>,
): void {
  const ids = named.map(({ id }) => id);
  const stray = [...machines.keys()].find((id) => !ids.includes(id)) ?? ids.find((id) => !machines.has(id));
  if (stray !== undefined) throw refused(`manifest and files do not agree on the machine “${stray}”`);
  for (const [id, { document, rows }] of machines) {
    if (!isRecord(document) || document['id'] !== id)
      throw refused(`“machines/${id}.json” holds another machine`);
    for (const { hash } of [...rows.image, ...rows.kept, ...rows.photo])
      if (!files.has(String(hash))) throw refused(`${id} names bytes that are not in it (${String(hash).slice(0, 12)}…)`); // prettier-ignore
  }
}
