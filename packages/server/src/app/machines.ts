import { type Entry, MOST_ENTRIES } from '@jolly/contract/endpoints/machines';
import type { StoredMachine } from '@jolly/contract/machine';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Machine } from '@jolly/core/machine/machine';
import { type Context, transact, type Within } from '../context';
import type { Reading } from '../reading/reading';
import { addEdit, listEdits } from '../sql/edits';
import { addEntry, dropOwnNote, listEntries } from '../sql/entries';
import { addMachine, saveMachine } from '../sql/machines';
import { factsOf, theMachine } from './known';
import { readWhole } from './readWhole';

/** Adds a machine from the text of a machine file. */
export async function addFromFile(context: Context, file: string): Promise<StoredMachine> {
  const machine = await readMachine(context.reading, file);
  factsOf(context, machine);
  return transact(context, async (within) => {
    if (!(await addMachine(within.db, machine, context.now())))
      throw new Refusal('id-taken', `there is already a machine "${machine.id}"`, { path: 'id' });
    await addEntry(within.db, machine.id, {
      at: context.now(),
      kind: 'note',
      summary: 'Added from a machine file',
    });
    return theMachine(within, machine.id);
  });
}

const readMachine = async (reading: Reading, file: string): Promise<Machine> =>
  readWhole(await reading.read('machineFile', file));

export interface Save {
  version: number;
  machine: Machine;
  label?: string;
}

/** Saves a machine with the change that led to it. A stale save is told what stands there now. */
export function save(
  context: Context,
  id: string,
  { version, machine, label }: Save,
): Promise<StoredMachine> {
  return transact(context, async (within) => {
    const before = await theMachine(within, id);
    if (machine.id !== id)
      throw new Refusal('bad-value', `"machine.id" must stay "${id}"`, { path: 'machine.id' });
    factsOf(within, machine);
    const at = context.now();
    const stored = await saveMachine(within.db, machine, version, at);
    if (!stored) throw await stale(within, id, version, before);
    if (label)
      await addEdit(within.db, id, {
        label, before: before.machine, after: machine, version: stored.version, at,
      }); // prettier-ignore
    return stored;
  });
}

async function stale({ db }: Within, id: string, version: number, current: StoredMachine): Promise<Refusal> {
  const edits = await listEdits(db, id);
  return new Refusal('stale', 'this machine was changed elsewhere since you opened it', {
    version: current.version,
    current,
    changes: edits.filter((edit) => edit.version > version && !edit.undone).map((edit) => edit.label),
  });
}

export async function logbook(context: Within, id: string): Promise<Entry[]> {
  await theMachine(context, id);
  return listEntries(context.db, id, MOST_ENTRIES);
}

export function addNote(context: Context, id: string, summary: string): Promise<Entry[]> {
  return transact(context, async (within) => {
    await theMachine(within, id);
    await addEntry(within.db, id, { at: context.now(), kind: 'note', summary, detail: { own: true } });
    return logbook(within, id);
  });
}

/** Takes a note of one's own out of the logbook; what the product wrote stays. */
export function takeNoteBack(context: Context, id: string, number: number): Promise<Entry[]> {
  return transact(context, async (within) => {
    if (!(await dropOwnNote(within.db, id, number))) throw notFound('note of your own', String(number));
    return logbook(within, id);
  });
}
