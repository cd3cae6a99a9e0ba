import type { Place, StoredMachine } from '@jolly/contract/machine';
import { Refusal } from '@jolly/contract/refusal';
import { freeId } from '@jolly/core/machine/freeId';
import { asCopied } from '@jolly/core/settings/asCopied';
import { line } from '@jolly/core/text/plainText';
import { type Context, transact } from '../context';
import { layDemo as lay } from '../demo/layDemo';
import { addEntry } from '../sql/entries';
import { openJob } from '../sql/jobs';
import { addMachine, demoIds, setPlace, takenIds } from '../sql/machines';
import { loadDemo } from '../demo/demoFiles';
import { factsOf, theMachine } from './known';

/** Puts a copy of a machine on the shelf: what it is, not what happened to it, nor what was measured on it. */
export function copyMachine(context: Context, id: string, name: string): Promise<StoredMachine> {
  const trimmed = name.trim();
  if (line(40).validate(trimmed).error)
    throw new Refusal('bad-value', '"name" must be one line of 1 to 40 characters', { path: 'name' });
  return transact(context, async (within) => {
    const { machine } = await theMachine(within, id);
    const copy = { ...asCopied(machine), id: freeId(trimmed, await takenIds(within.db)), name: trimmed };
    factsOf(within, copy);
    await addMachine(within.db, copy, context.now());
    await addEntry(within.db, copy.id, { at: context.now(), kind: 'note', summary: `Copied from ${machine.name}; what was measured, looked at or set aside there did not come along` }); // prettier-ignore
    return theMachine(within, copy.id);
  });
}

/** Archives a machine, deletes it, or puts it back. Nothing of it is lost until another takes its id. */
export function put(context: Context, id: string, at: Place): Promise<StoredMachine> {
  return transact(context, async (within) => {
    const stored = await theMachine(within, id);
    if (at === 'bin' && (await openJob(within.db, id)))
      throw new Refusal('job-open', `${stored.machine.name} is in the middle of a job; end it or archive the machine`); // prettier-ignore
    await setPlace(within.db, id, at);
    return { ...stored, at };
  });
}

/** Lays the demo's machines where they are not yet; those that were taken off come back as they were. */
export async function layDemo(context: Context): Promise<string[]> {
  const ids = (await loadDemo(context.root)).map(({ machine }) => machine.id);
  for (const id of await demoIds(context.db)) await setPlace(context.db, id, 'shelf');
  await lay(context);
  return ids;
}

/** Takes the demo's machines off the shelf again. They come back when they are laid again. */
export const takeDemoOff = (context: Context): Promise<string[]> =>
  transact(context, async (within) => {
    const ids = await demoIds(within.db);
    for (const id of ids) await setPlace(within.db, id, 'bin');
    return ids;
  });
