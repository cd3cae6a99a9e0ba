import type { Beginning, BoardState } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { toBase64 } from '@jolly/core/bytes/base64';
import { type PowerControl, powerControl, type Powered } from '@jolly/session/power';
import type { Watched } from '@jolly/session/store';
import { storedSettings } from '@jolly/session/storedSettings';
import { useQueryClient } from '@tanstack/react-query';
import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useSyncExternalStore,
} from 'react';
import { tape } from '../app/tape/tape';
import { followed } from '../app/followed';
import { useSendWaiting } from '../app/useSendWaiting';
import { appWindow } from '../app/window';
import { useWorkbench } from '../workbench/Workbench';
import { holdLink } from './holdLink';
import { workerLink } from './workerLink';
import { askAnew, askAnewOf } from '../api/held';

/** The machine at hand, and what is drawn of it. */
interface Bench {
  control: PowerControl;
  drawn: Watched<Powered>;
}

const BenchContext = createContext<Bench | undefined>(undefined);

/** The virtual bench of the machine at hand: power, link and what a person at it can see. */
export function BenchProvider({ children }: { children: ReactNode }) {
  const workbench = useWorkbench();
  const { id } = workbench.machine;
  const now = useRef(workbench);
  now.current = workbench;
  const cache = useQueryClient();
  const { write } = tape;
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
  const bench = useMemo((): Bench => ({ control: power, drawn: followed(power.powered) }), [power]);
  return <BenchContext value={bench}>{children}</BenchContext>;
}

function useBenchContext(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error('the bench needs a BenchProvider around it');
  return bench;
}

/** The ways to talk to the machine at hand. They stay the same for as long as it is at hand: nothing is drawn anew by them. */
export const useBench = (): PowerControl => useBenchContext().control;

/**
 * Something of the machine at hand, drawn anew when that something changes. News come many times a second: take no more
 * than what is drawn, and take what is kept, not what is made anew at each look.
 */
export function usePowered<T>(what: (now: Powered) => T): T {
  const { drawn } = useBenchContext();
  return useSyncExternalStore(drawn.listen, () => what(drawn.now()));
}

/** Keeps what the firmware stores, now or as soon as the server is there. */
function useStoredSettings(id: string): ReturnType<typeof storedSettings> {
  const cache = useQueryClient();
  const { write } = tape;
  const { client, outboxes } = appWindow;
  const outbox = outboxes.open<string>(`store:${id}`);
  const settings = useMemo(
    () =>
      storedSettings(id, {
        client,
        outbox,
        // What is stored by hand voids what was proven of it.
        kept: () => {
          void askAnewOf(cache, id, 'board', 'proofs');
          void askAnew(cache, 'machines');
        },
        say: (text) => write('done', text),
      }),
    [cache, client, id, outbox, write],
  );
  useSendWaiting(outbox, true, settings.send);
  return settings;
}
