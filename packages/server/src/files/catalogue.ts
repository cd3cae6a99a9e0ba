import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { type NamedText, readCatalogue } from '@jolly/core/formats/catalogueFiles';
import { namedTexts, readBefore } from './readBefore';

/** The installed files of the catalogue and of the kits. */
async function catalogueFiles(root: string): Promise<NamedText[]> {
  const folders = ['boards', 'chips', 'dialects', 'parts', 'programmers'].map((name) =>
    join('catalogue', name),
  );
  const listed = await Promise.all(
    folders.map(async (folder) => (await readdir(join(root, folder))).map((name) => join(folder, name))),
  );
  return namedTexts(root, [...listed.flat(), 'packages/firmware/lantern/kit.yaml']);
}

function readFiles(files: NamedText[]): Catalogue {
  const { catalogue, problems } = readCatalogue(files);
  if (problems.length === 0) return catalogue;
  throw new Error(
    `catalogue: ${problems.map((p) => `${p.file}:${p.line}:${p.column} ${p.path}: ${p.message}`).join('\n')}`,
  );
}

/** Boards, chips, dialects, parts and kits from the installed files. */
export const { load: loadCatalogue, keep: keepCatalogue } = readBefore<Catalogue>({
  kept: 'dist/catalogue.json',
  files: catalogueFiles,
  read: readFiles,
});

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
