import { judgeReading, type MeterRow } from '@jolly/core/firstPower/metering';
import { readMeter } from '@jolly/core/firstPower/meterReading';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';

/** What was ticked and read at the first power, kept as it is noted. */
export function useFirstPower() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const key = ['first-power', machine.id];
  const { data: notes } = useQuery({ queryKey: key, queryFn: () => api.powerNotes({ id: machine.id }) });
  const [refused, setRefused] = useState<string>();
  /** Notes a tick or a reading; null takes it back. */
  const note = async (asked: string, expected: string, said: string | null) => {
    try {
      client.setQueryData(key, await api.notePower({ id: machine.id }, { asked, expected, said }));
      setRefused(undefined);
    } catch (error) {
      setRefused(`It is not noted: ${whyOf(error)}`);
    }
  };
  return { notes, note, refused };
}

/** How a reading is judged; undefined while there is none. */
export function judged(row: Pick<MeterRow, 'bounds' | 'causes'>, said: string | undefined) {
  const reading = said === undefined ? undefined : readMeter(said);
  return reading && judgeReading(row, reading);
}
