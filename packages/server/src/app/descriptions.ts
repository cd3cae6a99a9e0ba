import type { Begun, StoredDescription } from '@jolly/contract/endpoints/descriptions';
import type { StoredMachine } from '@jolly/contract/machine';
import { notFound, Refusal } from '@jolly/contract/refusal';
import {
  answersOf,
  type Description,
  leftOpen,
  misfits,
  NEW_DESCRIPTION,
} from '@jolly/core/describe/description';
import { machineFrom } from '@jolly/core/describe/machineFrom';
import { machineSchema } from '@jolly/core/machine/machine';
import { freeId } from '@jolly/core/machine/freeId';
import { asCopied } from '@jolly/core/settings/asCopied';
import { type Context, transact, type Within } from '../context';
import { describedMachines } from '../sql/descriptions';
import { addEntry } from '../sql/entries';
import { addMachine, takenIds } from '../sql/machines';
import { keep } from './keep';
import { factsOf, theMachine } from './known';

/** More than anybody describes at a time; so many fit on one screen of the shelf. */
const MOST_DESCRIPTIONS = 50;

type Beginning =
  { from: 'nothing' } | { from: 'machine'; machine: string } | { from: 'report'; text: string };

/** Begins a description. @throws {Refusal} not-so for a report in which nothing can be read */
export async function begin(context: Context, beginning: Beginning): Promise<Begun> {
  const { description, ...report } = await beginsAs(context, beginning);
  return transact(context, async (within) => {
    const there = await describedMachines.list(within.db);
    if (there.length >= MOST_DESCRIPTIONS)
      throw new Refusal('too-many', `${MOST_DESCRIPTIONS} machines are being described; finish one or throw it away`); // prettier-ignore
    const id = freeId('new', new Set(there.map((entry) => entry.id)));
    return { stored: await describedMachines.add(within.db, id, description, context.now()), ...report };
  });
}

async function beginsAs(
  context: Context,
  beginning: Beginning,
): Promise<{ description: Description; taken?: number; unread?: number }> {
  if (beginning.from === 'machine') {
    const base = asCopied((await theMachine(context, beginning.machine)).machine);
    const { name: _name, ...answers } = answersOf(base);
    return { description: { ...NEW_DESCRIPTION, answers, base } };
  }
  if (beginning.from === 'report') {
    const { dialects, kits } = context.catalogue;
    const read = await context.reading.read('described', { text: beginning.text, dialects, kits });
    if (read.taken === 0)
      throw new Refusal('not-so', 'nothing in this report can be read as a setting; is it the answer to M503, and complete?'); // prettier-ignore
    return read;
  }
  return { description: NEW_DESCRIPTION };
}

/** A description that is kept. @throws {Refusal} not-found */
export async function theDescription({ db }: Within, id: string): Promise<StoredDescription> {
  const stored = await describedMachines.find(db, id);
  if (!stored) throw notFound('description', id);
  return stored;
}

/** Saves a description. @throws {Refusal} not-so for an answer that does not fit its question, stale for an old version */
export function saveOver(
  context: Context,
  id: string,
  { version, description }: { version: number; description: Description },
): Promise<StoredDescription> {
  const [wrong] = misfits(description, context.catalogue);
  if (wrong) throw new Refusal('not-so', wrong.why, { path: wrong.id });
  return transact(context, async (within) => {
    await theDescription(within, id);
    const stored = await describedMachines.save(within.db, id, description, version, context.now());
    if (!stored)
      throw new Refusal('stale', 'this description was changed in another window since you opened it');
    return stored;
  });
}

/** Throws a description away. */
export const throwAway = (context: Context, id: string): Promise<void> =>
  transact(context, async (within) => {
    await theDescription(within, id);
    await describedMachines.drop(within.db, id);
  });

/** Puts the described machine on the shelf. @throws {Refusal} not-so while something it cannot be without is open */
export async function shelve(context: Context, id: string): Promise<StoredMachine> {
  const stored = await transact(context, async (within) => {
    const { description } = await theDescription(within, id);
    const name = description.answers['name'];
    const wanted = freeId(typeof name === 'string' ? name : '', await takenIds(within.db));
    const made = machineFrom(description, wanted, context.catalogue);
    if ('open' in made)
      throw new Refusal('not-so', `still to be answered: ${made.open.map(({ label }) => label).join(', ')}`);
    const { error } = machineSchema().validate(made.machine, { convert: false });
    if (error) throw new Refusal('not-so', `this cannot be a machine file: ${error.message}`);
    factsOf(within, made.machine);
    await addMachine(within.db, made.machine, context.now());
    await addEntry(within.db, wanted, { at: context.now(), kind: 'note', summary: saidOf(description) });
    await describedMachines.drop(within.db, id);
    return { ...(await theMachine(within, wanted)), report: description.report };
  });
  const { report, ...machine } = stored;
  if (report !== undefined)
    await keep(context, machine.machine.id, factsOf(context, machine.machine), {
      kind: 'dump',
      name: 'settings-report.txt',
      bytes: new TextEncoder().encode(report),
      source: 'file',
    });
  return machine;
}

function saidOf(description: Description): string {
  const { base, report } = description;
  const from = base
    ? `, begun from ${base.name}`
    : report === undefined
      ? ''
      : ', begun from a settings report';
  const open = leftOpen(description).length;
  const stand = open === 1 ? '1 thing is' : `${open} things are`;
  return `Described${from}${open > 0 ? `; ${stand} not known yet` : ''}`;
}
