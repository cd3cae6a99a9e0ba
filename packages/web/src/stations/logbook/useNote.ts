import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';

/** Writes a line of one's own into a machine's logbook, and says how it went. */
export function useNote() {
  const client = useQueryClient();
  const [said, setSaid] = useState<string>();
  const write = async (machineId: string, summary: string): Promise<boolean> => {
    try {
      await api.addNote({ id: machineId }, { summary });
    } catch (error) {
      setSaid(whyOf(error));
      return false;
    }
    setSaid('It is in the logbook.');
    await client.invalidateQueries({ queryKey: ['entries', machineId] });
    return true;
  };
  return { write, said };
}
