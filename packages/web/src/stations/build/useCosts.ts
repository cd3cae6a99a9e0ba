import type { CostRun } from '@jolly/contract/endpoints/costs';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { askedOf } from '../../api/asked';
import { api, costEventsUrl } from '../../api/api';
import { useRunEvents } from '../../app/useRunEvents';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';

export type DoneCosts = Extract<CostRun, { state: 'done' }>;

/** What each feature takes, as it was measured last; undefined until it is known, null where it never was. */
export function useCostRun(): CostRun | null | undefined {
  const { machine } = useWorkbench();
  return useQuery(askedOf.costs(machine.id)).data?.run;
}

/** Starts, follows and cancels the measuring; one that was under way when the page was loaded is followed on. */
export function useCosts() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const run = useCostRun();
  const running = run?.state === 'running';
  const refresh = useCallback(() => askAnewOf(client, machine.id, 'costs'), [client, machine.id]);
  const ended = useCallback(() => void refresh(), [refresh]);

  const progress = useRunEvents(running ? costEventsUrl(machine.id) : undefined, ended);
  const { refused, act } = useAct(refresh);
  const ask = (what: 'measureCosts' | 'cancelCosts') =>
    act(async () => {
      await api[what]({ id: machine.id });
    });
  return {
    run,
    progress,
    refused,
    start: () => ask('measureCosts'),
    cancel: () => ask('cancelCosts'),
  };
}
