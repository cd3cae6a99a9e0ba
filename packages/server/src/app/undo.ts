import type { StoredEdit, StoredMachine } from '@jolly/contract/machine';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Machine } from '@jolly/core/machine/machine';
import { mergeThreeWay } from '@jolly/core/tree/mergeThreeWay';
import { type Context, transact, type Within } from '../context';
import { type EditStates, findEdit, listEdits, nextEdit, setUndone } from '../sql/edits';
import { saveMachine } from '../sql/machines';
import { factsOf, theMachine } from './known';

/** Changes of a machine file, newest first, with whether they are undone. */
export async function edits(context: Within, id: string): Promise<StoredEdit[]> {
  await theMachine(context, id);
  return listEdits(context.db, id);
}

export async function edit({ db }: Within, id: string, number: number): Promise<StoredEdit & EditStates> {
  const found = await findEdit(db, id, number);
  if (!found) throw notFound('change', String(number));
  return found;
}

/**
 * Takes one change back or makes it again, the next one or the one that led to a version; what was changed since in other
 * fields stays.
 * @throws {Refusal} not-so where a field of it was changed again since
 */
export function goBack(
  context: Context,
  id: string,
  way: 'undo' | 'redo',
  version?: number,
): Promise<StoredMachine & { label: string }> {
  return transact(context, async (within) => {
    const current = await theMachine(within, id);
    const next = await nextEdit(within.db, id, way, version);
    if (!next) throw new Refusal('nothing-to-do', nothingTo(way, version));
    const [from, to] = way === 'undo' ? [next.after, next.before] : [next.before, next.after];
    const { value: machine, kept } = mergeThreeWay<Machine>(from, to, current.machine);
    if (kept.length > 0) throw new Refusal('not-so', `it was changed again since: ${kept.join(', ')}`);
    factsOf(within, machine);
    const saved = await saveMachine(within.db, machine, current.version, context.now());
    if (!saved) throw new Refusal('stale', 'this machine was just changed elsewhere; look at it first');
    await setUndone(within.db, next.id, way === 'undo');
    return { ...saved, label: next.label };
  });
}

const nothingTo = (way: 'undo' | 'redo', version: number | undefined): string => {
  if (version === undefined) return `there is nothing to ${way}`;
  return way === 'undo'
    ? 'it was taken back already, or is older than what is kept'
    : 'something else was changed since';
};
