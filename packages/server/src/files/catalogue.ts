import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { readCatalogue } from '@jolly/core/formats/catalogueFiles';
import { readMachineFile } from '@jolly/core/formats/machineFile';

/** Reads boards, chips, dialects, parts and kits from the installed files. A mistake in one is a mistake of ours: it throws. */
export async function loadCatalogue(root: string): Promise<Catalogue> {
  const folders = ['boards', 'chips', 'dialects', 'parts'].map((name) => join(root, 'catalogue', name));
  const paths = (
    await Promise.all(
      folders.map(async (folder) => (await readdir(folder)).map((name) => join(folder, name))),
    )
  ).flat();
  paths.push(join(root, 'packages/firmware/lantern/kit.yaml'));
  const files = await Promise.all(
    paths.sort().map(async (path) => ({ path, text: await readFile(path, 'utf8') })),
  );
  const { catalogue, problems } = readCatalogue(files);
  if (problems.length > 0) {
    throw new Error(
      `catalogue: ${problems.map((p) => `${p.file}:${p.line}:${p.column} ${p.path}: ${p.message}`).join('\n')}`,
    );
  }
  return catalogue;
}

/** C sources and headers of a kit, by file name. Kits are only ever read from the installed files. */
export async function loadKitSources(root: string, kitId: string): Promise<Map<string, string>> {
  const folder = join(root, 'packages/firmware', kitId, 'src');
  const names = (await readdir(folder)).filter((name) => /\.[ch]$/.test(name)).sort();
  return new Map(
    await Promise.all(
      names.map(async (name): Promise<[string, string]> => [
        name,
        await readFile(join(folder, name), 'utf8'),
      ]),
    ),
  );
}

/** The demo's machines. */
export async function loadDemoMachines(root: string): Promise<Machine[]> {
  const folder = join(root, 'catalogue/demo');
  const names = (await readdir(folder)).filter((name) => name.endsWith('.yaml')).sort();
  return Promise.all(
    names.map(async (name) => {
      const read = readMachineFile(await readFile(join(folder, name), 'utf8'));
      if ('problems' in read) throw new Error(`${name}: ${JSON.stringify(read.problems[0])}`);
      return read.value;
    }),
  );
}
