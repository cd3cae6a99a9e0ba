import type { Beginning, BoardState } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { toBase64 } from '@jolly/core/bytes/base64';
import { type PowerControl, powerControl, type Powered } from '@jolly/session/power';
import { storedSettings } from '@jolly/session/storedSettings';
import { useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from 'react';
import { useTape } from '../app/tape/tape';
import { useFollowed } from '../app/useFollowed';
import { useSendWaiting } from '../app/useSendWaiting';
import { appWindow } from '../app/window';
import { useWorkbench } from '../workbench/Workbench';
import { holdLink } from './holdLink';
import { workerLink } from './workerLink';
import { askAnewOf } from '../api/held';

/** The machine at hand on the virtual bench: its power, what it says, and the ways to talk to it. */
export type BenchControl = Omit<PowerControl, 'powered'> &
  Powered & {
    /** There is power, or it is being switched on: nothing may be plugged. */
    live: boolean;
  };

const BenchContext = createContext<BenchControl | undefined>(undefined);

/** The virtual bench of the machine at hand: power, link and what a person at it can see. */
export function BenchProvider({ children }: { children: ReactNode }) {
  const workbench = useWorkbench();
  const { id } = workbench.machine;
  const now = useRef(workbench);
  now.current = workbench;
  const cache = useQueryClient();
  const { write } = useTape();
  const settings = useStoredSettings(id);
  const power = useMemo(() => {
    const link = (
      state: BoardState,
      told: Parameters<typeof workerLink>[1],
      begins: Beginning | undefined,
      hands: readonly HandAct[],
    ) => {
      const { machine, facts } = now.current;
      return workerLink({ machine, catalogue: facts.catalogue, state, begins, hands }, told);
    };
    return powerControl(id, {
      client: appWindow.client,
      board: () => now.current.board,
      link: (state, { look }, begins, hands) =>
        link(state, { look, store: (bytes) => void settings.keep(toBase64(bytes)) }, begins, hands),
      storeKept: settings.settled,
      holdLink: () => holdLink(id),
      say: write,
      offered: () => {
        void askAnewOf(cache, id, 'board', 'flashes', 'entries', 'proofs');
      },
      clock: () => Date.now(),
      every: (ms, run) => {
        const timer = setInterval(run, ms);
        return () => clearInterval(timer);
      },
    });
  }, [id, cache, write, settings]);
  // Leaving a machine switches its bench off.
  useEffect(() => power.powerOff, [power]);
  const powered = useFollowed(power.powered);
  const control = useMemo(
    (): BenchControl => ({
      ...power,
      ...powered,
      live: powered.power.state === 'on' || powered.power.state === 'starting',
    }),
    [power, powered],
  );
  return <BenchContext value={control}>{children}</BenchContext>;
}

export function useBench(): BenchControl {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error('useBench needs a BenchProvider around it');
  return bench;
}

/** Keeps what the firmware stores, now or as soon as the server is there. */
function useStoredSettings(id: string): ReturnType<typeof storedSettings> {
  const cache = useQueryClient();
  const { write } = useTape();
  const { client, outboxes } = appWindow;
  const outbox = outboxes.open<string>(`store:${id}`);
  const settings = useMemo(
    () =>
      storedSettings(id, {
        client,
        outbox,
        kept: () => void askAnewOf(cache, id, 'board'),
        say: (text) => write('done', text),
      }),
    [cache, client, id, outbox, write],
  );
  useSendWaiting(outbox, true, settings.send);
  return settings;
}
