import { whyOf } from '@jolly/core/text/whyOf';
import { cut } from '@jolly/core/text/plainText';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf } from '../../api/held';

/** Writes a line of one's own into a machine's logbook, and says how it went. */
export function useNote() {
  const client = useQueryClient();
  const { deeds } = useWorkbench();
  const [said, setSaid] = useState<string>();
  const write = async (machineId: string, summary: string): Promise<boolean> => {
    try {
      const [newest] = await api.addNote({ id: machineId }, { summary });
      if (newest)
        deeds.did({ kind: 'note', label: `Note: ${cut(summary, 60)}`, text: summary, entry: newest.id });
    } catch (error) {
      setSaid(whyOf(error));
      return false;
    }
    setSaid('It is in the logbook.');
    await askAnewOf(client, machineId, 'entries');
    return true;
  };
  return { write, said };
}
