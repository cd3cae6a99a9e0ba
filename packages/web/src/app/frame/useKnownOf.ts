import type { Known } from '@jolly/session/known';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { askedOf } from '../../api/asked';
import { type Lookup, lookupOf } from '../../job/lookup';

/** What the server knows of a machine's way beside its file and its job, and how far the asking has come. */
export function useKnownOf(
  id: string,
  others: Lookup[],
): { known: Omit<Known, 'workbench' | 'job'>; lookups: Lookup[] } {
  const builds = useQuery(askedOf.builds(id));
  const board = useQuery(askedOf.board(id));
  const proofs = useQuery(askedOf.proofs(id));
  const entries = useQuery(askedOf.entries(id));
  // Flash and Logbook read it by themselves: nothing is said to be none before it is known.
  const flashes = useQuery(askedOf.flashes(id));
  const known = useMemo(
    () => ({
      builds: builds.data ?? [],
      board: board.data,
      proofs: proofs.data,
      entries: entries.data ?? [],
    }),
    [builds.data, board.data, proofs.data, entries.data],
  );
  const lookups = [
    ...others,
    lookupOf('the builds', builds),
    lookupOf('the board on the bench', board),
    lookupOf('the proofs', proofs),
    lookupOf('the logbook', entries),
    lookupOf('what was flashed', flashes),
  ];
  return { known, lookups };
}
