import { createHash } from 'node:crypto';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { type NamedText, readCatalogue } from '@jolly/core/formats/catalogueFiles';
import { readMachineFile } from '@jolly/core/formats/machineFile';

/** The installed files of the catalogue and of the kits. */
async function catalogueFiles(root: string): Promise<NamedText[]> {
  const folders = ['boards', 'chips', 'dialects', 'parts', 'programmers'].map((name) =>
    join('catalogue', name),
  );
  const listed = await Promise.all(
    folders.map(async (folder) => (await readdir(join(root, folder))).map((name) => join(folder, name))),
  );
  const paths = [...listed.flat(), 'packages/firmware/lantern/kit.yaml'].sort();
  return Promise.all(paths.map(async (path) => ({ path, text: await readFile(join(root, path), 'utf8') })));
}

/** The catalogue as it was read once, and from which files: reading and checking them takes most of a start. */
interface ReadBefore {
  from: string;
  catalogue: Catalogue;
}
const READ_BEFORE = 'dist/catalogue.json';
const hashOf = (files: readonly NamedText[]): string =>
  createHash('sha256').update(JSON.stringify(files)).digest('hex');

/** @throws {Error} for a mistake in one of the files: it is ours */
function readFiles(files: NamedText[]): Catalogue {
  const { catalogue, problems } = readCatalogue(files);
  if (problems.length === 0) return catalogue;
  throw new Error(
    `catalogue: ${problems.map((p) => `${p.file}:${p.line}:${p.column} ${p.path}: ${p.message}`).join('\n')}`,
  );
}

/** Boards, chips, dialects, parts and kits from the installed files, or as they were read when the product was built. */
export async function loadCatalogue(root: string): Promise<Catalogue> {
  const files = await catalogueFiles(root);
  const text = await readFile(join(root, READ_BEFORE), 'utf8').catch(() => undefined);
  // Written beside the program when it was built, as trusted as the program itself.
  const before = text === undefined ? undefined : (JSON.parse(text) as ReadBefore);
  return before?.from === hashOf(files) ? before.catalogue : readFiles(files);
}

/** Reads the catalogue's files for all starts to come. */
export async function keepCatalogue(root: string): Promise<void> {
  const files = await catalogueFiles(root);
  const before: ReadBefore = { from: hashOf(files), catalogue: readFiles(files) };
  await writeFile(join(root, READ_BEFORE), JSON.stringify(before));
}

/** C sources and headers of a kit, by path below its folder of sources. Kits are only ever read from the installed files. */
export async function loadKitSources(root: string, kitId: string): Promise<Map<string, string>> {
  const folder = join(root, 'packages/firmware', kitId, 'src');
  const names = (await readdir(folder, { recursive: true })).filter((name) => /\.[ch]$/.test(name)).sort();
  return new Map(
    await Promise.all(
      names.map(async (name): Promise<[string, string]> => [
        name,
        await readFile(join(folder, name), 'utf8'),
      ]),
    ),
  );
}

const DEMO = 'catalogue/demo';

/** Ids of the demo's machines; each has a file of its name. */
export async function demoMachineIds(root: string): Promise<string[]> {
  return (await readdir(join(root, DEMO)))
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => basename(name, '.yaml'))
    .sort();
}

export async function loadDemoMachine(root: string, id: string): Promise<Machine> {
  const read = readMachineFile(await readFile(join(root, DEMO, `${id}.yaml`), 'utf8'));
  if ('problems' in read) throw new Error(`${id}.yaml: ${JSON.stringify(read.problems[0])}`);
  return read.value;
}

/** The demo's machines. */
export async function loadDemoMachines(root: string): Promise<Machine[]> {
  return Promise.all((await demoMachineIds(root)).map((id) => loadDemoMachine(root, id)));
}
