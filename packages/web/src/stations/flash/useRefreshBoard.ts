import { useQueryClient } from '@tanstack/react-query';
import { useWorkbench } from '../../workbench/Workbench';

/** What is known of the board is asked for anew: something was written to it, or to its card. */
export function useRefreshBoard() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  return () =>
    Promise.all(
      ['board', 'flashes', 'entries', 'proofs', 'wayBack'].map((key) =>
        client.invalidateQueries({ queryKey: [key, machine.id] }),
      ),
    );
}
