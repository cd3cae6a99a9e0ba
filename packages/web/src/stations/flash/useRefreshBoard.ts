import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf } from '../../api/held';

/** What is known of the board is asked for anew: something was written to it, or to its card. */
export function useRefreshBoard(): () => Promise<unknown> {
  const { id } = useWorkbench().machine;
  const client = useQueryClient();
  return useCallback(
    () => askAnewOf(client, id, 'board', 'flashes', 'entries', 'proofs', 'wayBack'),
    [client, id],
  );
}
