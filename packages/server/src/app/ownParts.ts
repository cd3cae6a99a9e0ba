import { notFound, Refusal } from '@jolly/contract/refusal';
import { partById } from '@jolly/core/catalogue/catalogue';
import type { Part } from '@jolly/core/parts/part';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Context, transact } from '../context';
import { ownParts } from '../sql/ownTypes';
import { describedAnew } from './describedAnew';
import { readWhole } from './readWhole';

/** A part of the catalogue. @throws {Refusal} not-found */
export function thePart({ catalogue }: Pick<Context, 'catalogue'>, id: string): Part {
  const part = partById(catalogue, id);
  if (!part) throw notFound('part', id);
  return part;
}

/**
 * Adds a part from the text of a part file, or replaces one of the same kind that was added here before; the logbook of
 * every machine that has it says so.
 */
export async function addPart(context: Context, text: string): Promise<Part> {
  const part = readWhole(await context.reading.read('partFile', text));
  const there = partById(context.catalogue, part.id);
  if (there && (!context.ownParts.has(part.id) || there.kind !== part.kind))
    throw new Refusal('id-taken', `there is a ${there.kind} "${part.id}" (${there.name}); give yours another id`, { path: 'id' }); // prettier-ignore
  await transact(context, async (within) => {
    const at = context.now();
    await ownParts.put(within.db, part, at);
    if (there && !sameValue(there, part))
      await describedAnew(within, part.name, ({ parts }) => parts.some((used) => used.part === part.id));
  });
  context.ownParts.add(part.id);
  context.catalogue.parts = [...context.catalogue.parts.filter(({ id }) => id !== part.id), part];
  return part;
}
