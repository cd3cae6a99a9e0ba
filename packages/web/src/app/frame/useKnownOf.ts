import type { Known } from '@jolly/session/known';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { type Lookup, lookupOf } from '../../job/lookup';
import { heldOf } from '../../api/held';

/** What the server knows of a machine's way beside its file and its job, and how far the asking has come. */
export function useKnownOf(
  id: string,
  others: Lookup[],
): { known: Omit<Known, 'workbench' | 'job'>; lookups: Lookup[] } {
  const builds = useQuery({ queryKey: heldOf(id, 'builds'), queryFn: () => api.builds({ id }) });
  const board = useQuery({ queryKey: heldOf(id, 'board'), queryFn: () => api.board({ id }) });
  const proofs = useQuery({ queryKey: heldOf(id, 'proofs'), queryFn: () => api.proofs({ id }) });
  const entries = useQuery({ queryKey: heldOf(id, 'entries'), queryFn: () => api.entries({ id }) });
  // Flash and Logbook read it by themselves: nothing is said to be none before it is known.
  const flashes = useQuery({ queryKey: heldOf(id, 'flashes'), queryFn: () => api.flashes({ id }) });
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
