import type { PowerNotes } from '@jolly/contract/endpoints/firstPower';
import { noteRestsOn } from '@jolly/core/firstPower/noteRestsOn';
import { groundsOf, voidBecause } from '@jolly/core/machine/ground';
import { type Context, transact, type Within } from '../context';
import { dropPowerNote, listPowerNotes, putPowerNote } from '../sql/firstPower';
import { theFacts } from './known';

/** What was ticked and read at the first power of a machine, and what of it was noted before the machine was changed. */
export async function powerNotes(context: Within, id: string): Promise<PowerNotes> {
  const facts = await theFacts(context, id);
  const noted = (await listPowerNotes(context.db, id)).map(({ grounds, ...note }) => ({
    note,
    because: voidBecause(grounds, facts, 'noted'),
  }));
  return {
    notes: noted.flatMap(({ note, because }) => (because === undefined ? [note] : [])),
    voided: noted.flatMap(({ note: { asked }, because }) =>
      because === undefined ? [] : [{ asked, because }],
    ),
  };
}

/** Notes a tick or a reading, or takes it back. */
export function notePower(
  context: Context,
  id: string,
  { asked, expected, said }: { asked: string; expected: string; said: string | null },
): Promise<PowerNotes> {
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    const grounds = groundsOf(facts, noteRestsOn(facts, asked));
    if (said === null) await dropPowerNote(within.db, id, asked);
    else await putPowerNote(within.db, id, { asked, expected, said, grounds }, context.now());
    return powerNotes(within, id);
  });
}
