import type { Machine } from '../machine/machine';
import { questionOf } from './pages';
import type { PartQuestion } from './question';

/** Parts of which nobody could say whether the machine has them, or which they are. */
export const openParts = (machine: Machine): PartQuestion[] =>
  (machine.not_known ?? []).flatMap((id) => {
    const question = questionOf(id);
    return question?.kind === 'part' && question.read(machine) === undefined ? [question] : [];
  });

/** So many are named. */
const MOST_NAMED = 4;

/** The parts nobody could say anything of, as a list within a sentence; nothing where there are none. */
export function openPartsInWords(machine: Machine): string | undefined {
  const labels = openParts(machine).map(({ label }) => label);
  if (labels.length === 0) return undefined;
  const more = labels.length - MOST_NAMED;
  return [...labels.slice(0, MOST_NAMED), ...(more > 0 ? [`and ${more} more`] : [])].join('; ');
}
