import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import { type Context, transact, type Within } from '../context';
import { dropPowerNote, listPowerNotes, putPowerNote } from '../sql/firstPower';
import { theMachine } from './known';

/** What was ticked and read at the first power of a machine. */
export async function powerNotes(context: Within, id: string): Promise<PowerNote[]> {
  await theMachine(context, id);
  return listPowerNotes(context.db, id);
}

/** Notes a tick or a reading, or takes it back. */
export function notePower(
  context: Context,
  id: string,
  { asked, expected, said }: { asked: string; expected: string; said: string | null },
): Promise<PowerNote[]> {
  return transact(context, async (within) => {
    await theMachine(within, id);
    if (said === null) await dropPowerNote(within.db, id, asked);
    else await putPowerNote(within.db, id, { asked, expected, said }, context.now());
    return listPowerNotes(within.db, id);
  });
}
