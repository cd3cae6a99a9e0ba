import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { useWorkbench } from '../../workbench/Workbench';

/** What is known of the board is asked for anew: something was written to it, or to its card. */
export function useRefreshBoard(): () => Promise<unknown> {
  const { id } = useWorkbench().machine;
  const client = useQueryClient();
  return useCallback(
    () =>
      Promise.all(
        ['board', 'flashes', 'entries', 'proofs', 'wayBack'].map((key) =>
          client.invalidateQueries({ queryKey: [key, id] }),
        ),
      ),
    [client, id],
  );
}
