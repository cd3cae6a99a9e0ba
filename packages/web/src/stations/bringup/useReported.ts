import { parseDump } from '@jolly/core/report/parseDump';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useStation } from '../../app/frame/StationContext';
import type { PowerControl } from '@jolly/session/power';
import { useWorkbench } from '../../workbench/Workbench';

/** Settings as the board keeps them, by option key; asked when it wakes up and after every test. */
export function useReported(
  ask: PowerControl['ask'],
  awake: boolean,
  idle: boolean,
): Record<string, number> | undefined {
  const { machine } = useWorkbench();
  const { board, proofs } = useStation();
  const [wakes, setWakes] = useState(0);
  useEffect(() => {
    if (awake) setWakes((count) => count + 1);
  }, [awake]);
  const free = awake && idle;
  const tested = (proofs?.proofs ?? []).map(({ step, at }) => `${step} ${at}`);
  const answer = useQuery({
    queryKey: ['reported', machine.id, board?.imageHash, wakes, tested],
    queryFn: async () => {
      const { lines, problem } = await ask('M503', true);
      // A board that does not tell has not told that all is as it should be.
      if (problem !== undefined) throw new Error(problem);
      const values = parseDump({ text: lines.join('\n') }).values.filter(({ tool }) => !tool);
      return Object.fromEntries(values.map(({ key, value }) => [key, value]));
    },
    enabled: free,
    gcTime: 0,
    staleTime: Infinity,
  });
  return free ? answer.data : undefined;
}
