import type { FlashOrder, ToolRoute } from '@jolly/contract/endpoints/board';
import { faultsLaid } from '@jolly/core/bringup/handAct';
import { by } from '@jolly/core/flash/routeWords';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, flashEventsUrl } from '../../api/api';
import { tape } from '../../app/tape/tape';
import { useRunEvents } from '../../app/useRunEvents';
import { useBench } from '../../bench/BenchProvider';
import { holdLink } from '../../bench/holdLink';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { useRefreshBoard } from './useRefreshBoard';
import { askAnewOf } from '../../api/held';

/** What a tool does at the board of the machine at hand: how far it is, what it came to, and the acts. */
export function useToolRun() {
  const { machine } = useWorkbench();
  const bench = useBench();
  const { write } = tape;
  const client = useQueryClient();
  const refresh = useRefreshBoard();
  const { act, busy, refused } = useAct(refresh);
  const key = ['flashRun', machine.id];
  const { data: stands } = useQuery({ queryKey: key, queryFn: () => api.flashRun({ id: machine.id }), meta: { what: 'whether a tool is at the board' } });
  const running = stands?.state === 'running';
  const ended = useCallback(() => {
    // What the board holds is known before it is said that the tool is done.
    void refresh().then(() => askAnewOf(client, machine.id, 'flashRun'));
    void api.flashRun({ id: machine.id }).then(({ outcome }) => {
      if (outcome) write('done', outcome.taken ? `The tool is done: ${outcome.name}` : `The tool broke off: ${outcome.because}`);
    });
  }, [client, machine.id, refresh, write]);
  const progress = useRunEvents(running ? flashEventsUrl(machine.id) : undefined, ended);

  const start = (route: ToolRoute, does: FlashOrder['does'], image?: FlashOrder['image']) =>
    act(async () => {
      const letGo = await holdLink(machine.id);
      if (!letGo) throw new Error('another window of Jolly Cog is at this board: switch the power off there first');
      write('done', `${TOLD[does]} ${by({ kind: route })}`);
      const { hands, pace } = bench.powered.now();
      const order = { route, does, ...(image && { image }), laid: faultsLaid(hands), pace: pace > 100 ? 0 : pace };
      const started = await api.startFlash({ id: machine.id }, order).catch((error: unknown) => {
        letGo();
        throw error;
      });
      client.setQueryData(key, started);
      // Nobody talks to the board while a tool is at it, also when this station is left meanwhile.
      void untilOver(flashEventsUrl(machine.id)).then(letGo);
    });
  const breakOff = (how: 'cancelled' | 'power lost') =>
    act(async () => void client.setQueryData(key, await api.breakFlash({ id: machine.id }, { by: how })));
  return { stands, running, progress, busy, refused, start, breakOff };
} // prettier-ignore

/** Resolves when a run is over, or when nobody tells of it any more. */
function untilOver(url: string): Promise<void> {
  const events = new EventSource(url);
  return new Promise((over) => {
    const end = () => {
      events.close();
      over();
    };
    events.addEventListener('ended', end);
    events.addEventListener('error', end);
  });
}

const TOLD: Record<FlashOrder['does'], string> = {
  try: 'Calling the board',
  write: 'Writing an image',
  bootloader: 'Installing a bootloader',
};
