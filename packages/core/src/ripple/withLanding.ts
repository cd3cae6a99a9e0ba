import type { Landing } from '../machine/landing';
import type { Machine } from '../machine/machine';
import type { Change } from './change';
import { partBrought } from './changes';

/**
 * A job's changes so that parts land elsewhere: told by the change that brings the part, else by the new board, else
 * by a change of their own. The result is what a user would have planned at once, so that taking a change back takes
 * its landing back.
 */
export function withLandings(
  before: Machine,
  changes: readonly Change[],
  landings: Readonly<Record<string, Landing>>,
): Change[] {
  return Object.entries(landings).reduce(
    (all, [part, landing]) => withLanding(before, all, part, landing),
    [...changes],
  );
}

function withLanding(before: Machine, changes: Change[], part: string, landing: Landing): Change[] {
  const wasThere = before.parts.some(({ id }) => id === part);
  const owner = changes.findLast((change) => partBrought(change) === part);
  const board = changes.find((change) => change.kind === 'new-board');
  const told = changes.map((change): Change => {
    if (change === owner)
      return change.kind === 'dual-z'
        ? { ...change, ...('socket' in landing && { socket: landing.socket }) }
        : // Every other kind that is landed has its landing so.
          ({ ...change, landing } as Change);
    if (change === board && wasThere && change.kind === 'new-board')
      return { ...change, harness: { ...change.harness, [part]: landing } };
    return change;
  });
  if (owner || (board && wasThere)) return told;
  return [...told, { id: `rewire-${part}`, kind: 'rewire', part, landing }];
}
