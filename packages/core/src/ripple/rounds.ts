import type { Change } from './change';
import { CHANGE_TYPES, inWorkingOrder } from './changes';
import type { Ripple } from './ripple';

/** One turn of build, flash and proof. The first has no change: it proves the set-up itself. */
export interface Round {
  id: string;
  title: string;
  why: string;
  /** The change made in it; none in the unchanged base. */
  change?: string;
  /** Ids of the proofs that close it. */
  proofs: string[];
}

/**
 * The rounds of a job: the base unchanged where an image is needed, then one change and its proof at a time, so
 * that what broke it is known.
 */
export function rounds(changes: readonly Change[], { consequences, flash }: Ripple): Round[] {
  const proofsOf = (id: string) =>
    consequences
      .filter((entry) => entry.kind === 'proof' && entry.causes.includes(id))
      .map((entry) => entry.subject);
  const base: Round[] = flash
    ? [
        {
          id: 'base',
          title: 'The base, unchanged',
          why: 'Build the nearest known-good configuration once as it is. If that fails, the trouble is in the set-up and not in your changes.',
          proofs: [],
        },
      ]
    : [];
  return [
    ...base,
    ...inWorkingOrder(changes).map((change) => ({
      id: change.id,
      title: CHANGE_TYPES[change.kind].title,
      why:
        proofsOf(change.id).length > 0
          ? 'One change, then its proofs; what fails now, fails because of it.'
          : 'Nothing to prove after it.',
      change: change.id,
      proofs: proofsOf(change.id),
    })),
  ];
}
