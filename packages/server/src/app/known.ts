import type { StoredMachine } from '@jolly/contract/machine';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import type { Within } from '../context';
import { findMachine } from '../sql/machines';

/** A stored machine. @throws {Refusal} not-found */
export async function theMachine({ db }: Within, id: string): Promise<StoredMachine> {
  const stored = await findMachine(db, id);
  if (!stored) throw notFound('machine', id);
  return stored;
}

/** The facts of a machine. @throws {Refusal} unknown-id, naming the first thing that does not hold together */
export function factsOf({ catalogue }: Pick<Within, 'catalogue'>, machine: Machine): Facts {
  const resolved = resolve(machine, catalogue);
  if ('facts' in resolved) return resolved.facts;
  const { problems } = resolved;
  throw new Refusal('unknown-id', problems[0].message, { path: problems[0].path, problems });
}

/** The facts of a stored machine. @throws {Refusal} */
export async function theFacts(context: Within, id: string): Promise<Facts> {
  return factsOf(context, (await theMachine(context, id)).machine);
}
