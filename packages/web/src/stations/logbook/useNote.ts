import { cut } from '@jolly/core/text/plainText';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { useWatched } from '../../ui/useWatched';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';

/** Writes a line of one's own into a machine's logbook, and says how it went. */
export function useNote() {
  const client = useQueryClient();
  const { deeds } = useWorkbench();
  const { done } = useWatched(deeds);
  const [kept, setKept] = useState<number>();
  const { refused, act } = useAct();
  const write = (machineId: string, summary: string): Promise<boolean> =>
    deeds.during(
      act(async () => {
        const [newest] = await api.addNote({ id: machineId }, { summary });
        setKept(newest?.id);
        if (newest)
          deeds.did({ kind: 'note', label: `Note: ${cut(summary, 60)}`, text: summary, entry: newest.id });
        await askAnewOf(client, machineId, 'entries');
      }),
    );
  // Taken back, it is there no more.
  const isThere = done.some((deed) => deed.kind === 'note' && deed.entry === kept);
  return { write, said: refused ?? (isThere ? 'It is in the logbook.' : undefined) };
}
