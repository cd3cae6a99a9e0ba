import { type Build, type BuildMarks, MOST_BUILDS } from '@jolly/contract/endpoints/builds';
import { Refusal } from '@jolly/contract/refusal';
import { type Context, transact, type Within } from '../context';
import { clearableBuilds, clearBuilds, listBuilds, markBuild } from '../sql/builds';
import { addEntry } from '../sql/entries';
import { dropImages } from '../sql/images';
import { theBuild } from './builds';
import { theMachine } from './known';

/** Labels a build, and pins it or lets it go. @throws {Refusal} not-found */
export async function mark(context: Context, id: string, marks: BuildMarks): Promise<Build> {
  return transact(context, async (within) => {
    await theBuild(within, id);
    await markBuild(within.db, id, marks);
    return theBuild(within, id);
  });
}

/** Builds whose images nothing needs any more, beside the newest `keep`. @throws {Refusal} unknown-id */
export async function clearable(within: Within, machineId: string, keep: number): Promise<Build[]> {
  await theMachine(within, machineId);
  return clearableBuilds(within.db, machineId, keep);
}

/**
 * Clears away the images and maps of builds. Their settings, sizes and logs stay; the same settings give the same image again.
 * @throws {Refusal} not-so when one of them is needed after all: pinned, flashed, or among the newest `keep`
 */
export async function clear(
  context: Context,
  machineId: string,
  { keep, ids }: { keep: number; ids: string[] },
): Promise<Build[]> {
  const { hashes, left } = await transact(context, async (within) => {
    const may = await clearable(within, machineId, keep);
    const wanted = may.filter(({ id }) => ids.includes(id));
    const needed = ids.find((id) => !may.some((build) => build.id === id));
    if (needed !== undefined)
      throw new Refusal('not-so', `build ${needed} is pinned, was flashed, or is one of the newest ${keep}; nothing was cleared away`); // prettier-ignore
    const gone = new Set(wanted.flatMap((build) => (build.state === 'done' ? [build.imageHash] : [])));
    await clearBuilds(within.db, ids, within.now());
    await dropImages(within.db, [...gone]);
    const names = wanted.flatMap((build) => (build.state === 'done' ? [build.buildId] : []));
    await addEntry(within.db, machineId, {
      at: within.now(),
      kind: 'build',
      summary: `Cleared away ${names.length} ${names.length === 1 ? 'image' : 'images'} that nothing needs: ${names.slice(0, 8).join(', ')}${names.length > 8 ? ' …' : ''}`,
    });
    return { hashes: [...gone], left: await listBuilds(within.db, machineId, MOST_BUILDS) };
  });
  // Only when the database has let them go: bytes that nothing names harm nobody.
  for (const hash of hashes) await context.images.drop(hash);
  return left;
}
