import type { CostRun } from '@jolly/contract/endpoints/costs';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { api, costEventsUrl } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';

export interface CostProgress {
  done: number;
  total: number;
  doing: string;
}
export type DoneCosts = Extract<CostRun, { state: 'done' }>;

/** What each feature takes, as it was measured last; undefined until it is known, null where it never was. */
export function useCostRun(): CostRun | null | undefined {
  const { machine } = useWorkbench();
  return useQuery({ queryKey: ['costs', machine.id], queryFn: () => api.costs({ id: machine.id }) }).data
    ?.run;
}

/** Starts, follows and cancels the measuring; one that was under way when the page was loaded is followed on. */
export function useCosts() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const run = useCostRun();
  const [progress, setProgress] = useState<CostProgress>();
  const [refused, setRefused] = useState<string>();
  const running = run?.state === 'running';
  const refresh = useCallback(
    () => client.invalidateQueries({ queryKey: ['costs', machine.id] }),
    [client, machine.id],
  );

  useEffect(() => {
    if (!running) return;
    const events = new EventSource(costEventsUrl(machine.id));
    events.addEventListener('progress', (event) => {
      // Our own server's event, by the contract.
      setProgress(JSON.parse((event as MessageEvent<string>).data) as CostProgress);
    });
    events.addEventListener('ended', () => {
      events.close();
      setProgress(undefined);
      void refresh();
    });
    return () => events.close();
  }, [running, machine.id, refresh]);

  const act = async (what: 'measureCosts' | 'cancelCosts') => {
    setRefused(undefined);
    try {
      await api[what]({ id: machine.id });
    } catch (error) {
      setRefused(whyOf(error));
    }
    await refresh();
  };
  return {
    run,
    progress,
    refused,
    start: () => act('measureCosts'),
    cancel: () => act('cancelCosts'),
  };
}
