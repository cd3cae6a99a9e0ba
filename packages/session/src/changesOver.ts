import type { Change } from '@jolly/core/ripple/change';
import { sameValue } from '@jolly/core/tree/sameValue';

/** Changes of a job that somebody edits: what they began from, and how they are by now. */
export interface EditedChanges {
  from: readonly Change[];
  to: readonly Change[];
}

/** What is edited over the changes as they are now: what was planned meanwhile stays, what was edited counts. */
export function changesOver(now: readonly Change[], { from, to }: EditedChanges): Change[] {
  if (sameValue(now, from)) return [...to];
  const by = (list: readonly Change[]) => new Map(list.map((change) => [change.id, change]));
  const [began, edited] = [by(from), by(to)];
  const kept = now.flatMap((change): Change[] => {
    const mine = edited.get(change.id);
    if (!mine) return began.has(change.id) ? [] : [change];
    return [sameValue(mine, began.get(change.id)) ? change : mine];
  });
  const there = by(now);
  // One that was taken out elsewhere comes back only where it was edited here.
  const added = to.filter((change) => !there.has(change.id) && !sameValue(change, began.get(change.id)));
  return [...kept, ...added];
}
