import { parseDump } from '@jolly/core';
import { useQuery } from '@tanstack/react-query';
import { useStation } from '../../app/frame/StationContext';
import type { BenchControl } from '../../bench/BenchProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** Settings as the board keeps them, by option key; asked when it wakes up and after every test. */
export function useReported(ask: BenchControl['ask'], free: boolean): Record<string, number> | undefined {
  const { machine } = useWorkbench();
  const { board, proofs } = useStation();
  const tested = (proofs?.proofs ?? []).map(({ step, at }) => `${step} ${at}`);
  const answer = useQuery({
    queryKey: ['reported', machine.id, board?.imageHash, tested],
    queryFn: async () => {
      const { lines } = await ask('M503');
      const values = parseDump({ text: lines.join('\n') }).values.filter(({ tool }) => !tool);
      return Object.fromEntries(values.map(({ key, value }) => [key, value]));
    },
    enabled: free,
    gcTime: 0,
    staleTime: Infinity,
  });
  return free ? answer.data : undefined;
}
