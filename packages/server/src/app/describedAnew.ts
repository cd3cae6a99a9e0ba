import type { Machine } from '@jolly/core/machine/machine';
import type { Within } from '../context';
import { addEntry } from '../sql/entries';
import { allMachines, countUp } from '../sql/machines';

/**
 * Tells every machine that something it names was described anew. Its logbook says so, and its version counts up as with a
 * change of its file: settings, builds and costs that rest on it are from before.
 */
export async function describedAnew(
  within: Within,
  called: string,
  isNamedBy: (machine: Machine) => boolean,
): Promise<void> {
  const at = within.now();
  for (const machine of (await allMachines(within.db)).filter(isNamedBy)) {
    await countUp(within.db, machine.id, at);
    await addEntry(within.db, machine.id, {
      at,
      kind: 'note',
      summary: `${called} was described anew; what follows from it may be other than it was`,
    });
  }
}
