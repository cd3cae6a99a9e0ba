import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { heldOf } from '../../api/held';
import { useWorkbench } from '../../workbench/Workbench';
import { useAct } from '../../ui/useAct';

/** What was ticked and read at the first power, kept as it is noted. */
export function useFirstPower() {
  const { machine, version } = useWorkbench();
  const client = useQueryClient();
  // What was noted counts for the machine as it was then: with another version the server is asked again.
  const key = [...heldOf(machine.id, 'firstPower'), version];
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => api.powerNotes({ id: machine.id }),
    meta: { what: 'what was noted at the first power' },
  });
  const { refused, act } = useAct();
  /** Notes a tick or a reading; null takes it back. */
  const note = (asked: string, expected: string, said: string | null) =>
    act(async () => {
      client.setQueryData(key, await api.notePower({ id: machine.id }, { asked, expected, said }));
    });
  return {
    notes: data?.notes,
    voided: data?.voided ?? [],
    note,
    refused: refused && `It is not noted: ${refused}`,
  };
}
