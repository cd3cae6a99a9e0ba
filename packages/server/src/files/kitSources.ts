import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { type Machine } from '@jolly/core/machine/machine';
import { readMachineFile } from '@jolly/core/formats/machineFile';
import { loadKitSources } from './catalogue';
import { writeDurably } from './durable';

/** Sources of the kits as they were when the product was built, by kit and path. */
type Fresh = Record<string, Record<string, string>>;
const FRESH = 'dist/fresh-sources.json';
const kitFolder = (root: string, kitId: string) => join(root, 'packages/firmware', kitId);

/** Keeps the sources as they are, to know later whether one was edited out of turn. */
export async function keepFreshSources(root: string, kitIds: readonly string[]): Promise<void> {
  const fresh = await Promise.all(
    kitIds.map(async (id): Promise<[string, Record<string, string>]> => [id, Object.fromEntries(await loadKitSources(root, id))]),
  ); // prettier-ignore
  await writeFile(join(root, FRESH), JSON.stringify(Object.fromEntries(fresh)));
}

async function freshSources(root: string, kitId: string): Promise<ReadonlyMap<string, string> | undefined> {
  const text = await readFile(join(root, FRESH), 'utf8').catch(() => undefined);
  // Written beside the program when it was built.
  const fresh = text === undefined ? undefined : (JSON.parse(text) as Fresh)[kitId];
  return fresh && new Map(Object.entries(fresh));
}

/** Paths of sources that are not as they came: changed, gone, or added. Undefined where it is not known how they came. */
export async function editedSources(root: string, kitId: string): Promise<string[] | undefined> {
  const [fresh, now] = [await freshSources(root, kitId), await loadKitSources(root, kitId)];
  if (!fresh) return undefined;
  return [...new Set([...fresh.keys(), ...now.keys()])].filter((path) => fresh.get(path) !== now.get(path)).sort(); // prettier-ignore
}

/** Puts sources back as they came. What stood there is kept in a folder of `data`, which is answered. */
export async function putFresh(root: string, data: string, kitId: string, at: Date): Promise<string> {
  const edited = (await editedSources(root, kitId)) ?? [];
  const [fresh, now] = [await freshSources(root, kitId), await loadKitSources(root, kitId)];
  const aside = join(data, 'edited-sources', `${kitId}-${at.toISOString().replace(/[:.]/g, '-')}`);
  for (const path of edited) {
    const was = now.get(path);
    if (was !== undefined) {
      await mkdir(dirname(join(aside, path)), { recursive: true });
      await writeDurably(join(aside, path), was);
    }
    const place = join(kitFolder(root, kitId), 'src', path);
    const text = fresh?.get(path);
    if (text === undefined) await rm(place, { force: true });
    else await writeDurably(place, text);
  }
  return aside;
}

/** The base configurations of a kit: machines with nothing special, one for each kind of frame. */
export async function loadBases(root: string, kitId: string): Promise<Machine[]> {
  const folder = join(kitFolder(root, kitId), 'bases');
  const names = (await readdir(folder)).filter((name) => name.endsWith('.yaml')).sort();
  return Promise.all(
    names.map(async (name) => {
      const read = readMachineFile(await readFile(join(folder, name), 'utf8'));
      if ('problems' in read) throw new Error(`bases/${name}: ${JSON.stringify(read.problems[0])}`);
      return read.value;
    }),
  );
}
