import type { PlantView } from '@jolly/bench';
import type { Board } from '@jolly/core/board/board';
import type { MachineRecord } from '@jolly/core/checks/record';
import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { parseReply } from '@jolly/core/bringup/reply';
import { type BoardReadings, withLine } from '@jolly/core/bringup/boardReading';
import { useQueryClient } from '@tanstack/react-query';
import { proxy, type Remote, wrap } from 'comlink';
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { api, imageBytes } from '../api/api';
import type { BoardOnBench } from '@jolly/contract/endpoints/board';
import { useTape } from '../app/tape/tape';
import { useStoredSettings } from './useStoredSettings';
import { useWorkbench } from '../workbench/Workbench';
import { type Answer, type AskQueue, askQueue } from './askQueue';
import type { BenchNews, BenchWorker, Pace } from './benchWorker';

export type Power =
  | { state: 'off' }
  | { state: 'starting' }
  | { state: 'on'; imageHash: string | null; silent?: string }
  | { state: 'held'; by: string };

export interface BenchControl {
  power: Power;
  view?: PlantView;
  /** What the board says of place, heat, switches and state, each with when it was heard; none while it is off. */
  readings: BoardReadings;
  /** What the board said of its stored settings when it woke up. */
  store?: NonNullable<MachineRecord['store']>;
  nowS: number;
  pace: Pace;
  setPace(pace: Pace): void;
  /** A fresh image on a card in the slot is offered to the bootloader first, unless that was just done. */
  powerOn(cardSeen?: boolean): Promise<void>;
  powerOff(): void;
  /** Sends a line and waits for the board's closing line. */
  ask(line: string, quiet?: boolean): Promise<Answer>;
  /** Emergency stop: goes past everything that waits. */
  stop(): void;
  hold(partId: string, held: boolean): void;
}

/** How often the board is asked how things stand. */
const POLL_MS = 500;

const BenchContext = createContext<BenchControl | undefined>(undefined);

/** The virtual bench of the machine at hand: power, link and what a person at it can see. */
export function BenchProvider({ children }: { children: ReactNode }) {
  const { machine, facts } = useWorkbench();
  const client = useQueryClient();
  const { write } = useTape();
  const [power, setPower] = useState<Power>({ state: 'off' });
  const [news, setNews] = useState<{ view: PlantView; nowS: number }>();
  const [store, setStore] = useState<MachineRecord['store']>();
  const [readings, setReadings] = useState<BoardReadings>({});
  const [pace, setPaceState] = useState<Pace>(1);
  const worker = useRef<{ remote: Remote<BenchWorker>; end: () => void } | undefined>(undefined);
  const queue = useRef<AskQueue | undefined>(undefined);
  const release = useRef<(() => void) | undefined>(undefined);
  /** Aborted at every power-off, so that a power-on under way ends instead of switching on later. */
  const wakingUp = useRef<AbortController | undefined>(undefined);
  const machineId = machine.id;

  const powerOff = useCallback(() => {
    wakingUp.current?.abort();
    queue.current?.drop('the power was switched off');
    queue.current = undefined;
    worker.current?.end();
    worker.current = undefined;
    release.current?.();
    release.current = undefined;
    setNews(undefined);
    setReadings({});
    setStore(undefined);
    setPower((before) => {
      if (before.state === 'on') write('done', 'Power off');
      return { state: 'off' };
    });
  }, [write]);

  // Leaving a machine switches its bench off.
  useEffect(() => powerOff, [machineId, powerOff]);

  const keepStore = useStoredSettings(machineId);
  const hear = useCallback(
    ({ lines, view, nowS, store: written }: BenchNews) => {
      setNews({ view, nowS });
      if (written) keepStore(toBase64(written));
      if (lines.length === 0) return;
      const now = Date.now();
      setReadings((before) => lines.reduce((known, line) => withLine(known, line, now), before));
      for (const line of lines) {
        const { word, values } = parseReply(line);
        if (word === 'awake') setStore(values['store'] as MachineRecord['store']);
        if (!queue.current?.hear(line)) write('heard', line);
      }
    },
    [keepStore, write],
  );

  const wakeUp = useCallback(
    async (cardSeen: boolean) => {
      powerOff();
      const { signal } = (wakingUp.current = new AbortController());
      setPower({ state: 'starting' });
      const letGo = await holdLink(machineId);
      if (!letGo) return setPower({ state: 'held', by: 'another window of Jolly Cog' });
      if (signal.aborted) return letGo();
      release.current = letGo;
      if (!cardSeen && offersImage(await api.board({ id: machineId }), facts.board)) {
        const refused = await api.flash({ id: machineId }).then(
          () => undefined,
          (error: Error) => error.message,
        );
        if (refused) {
          write('done', `The power stays off: ${refused}`);
          powerOff();
          return;
        }
        for (const key of ['board', 'flashes', 'entries', 'proofs'])
          void client.invalidateQueries({ queryKey: [key, machineId] });
      }
      const board = await api.board({ id: machineId });
      const image = board.imageHash ? await imageBytes(board.imageHash) : null;
      if (signal.aborted) return;
      const thread = new Worker(new URL('./benchWorker.ts', import.meta.url), { type: 'module' });
      const remote = wrap<BenchWorker>(thread);
      worker.current = { remote, end: () => thread.terminate() };
      queue.current = askQueue((line, quiet) => {
        if (!quiet) write('sent', line);
        void remote.send(line);
      });
      void remote.setPace(pace);
      const state = { image, store: fromBase64(board.store), namesTaken: board.namesTaken };
      // A terminated worker never answers.
      const off = new Promise<undefined>((resolve) =>
        signal.addEventListener('abort', () => resolve(undefined)),
      );
      const started = await Promise.race([remote.powerOn(machine, facts.catalogue, state, proxy(hear)), off]);
      if (!started) return;
      const { silent } = started;
      write('done', silent ? `Power on, but the board is silent: ${silent}` : 'Power on');
      setPower({ state: 'on', imageHash: board.imageHash, ...(silent && { silent }) });
    },
    [client, facts.board, facts.catalogue, hear, machine, machineId, pace, powerOff, write],
  );
  const powerOn = useCallback(
    (cardSeen = false) =>
      wakeUp(cardSeen).catch((error: Error) => {
        write('done', `The power stays off: ${error.message}`);
        powerOff();
      }),
    [powerOff, wakeUp, write],
  );

  const listening = power.state === 'on' && power.silent === undefined;
  useEffect(() => {
    if (!listening) return;
    // A long command holds the line; the board then tells by itself how things stand.
    const poll = () => queue.current?.idle() && void queue.current.ask('state', true);
    poll();
    const timer = setInterval(poll, POLL_MS);
    return () => clearInterval(timer);
  }, [listening]);

  const setPace = useCallback((wanted: Pace) => {
    setPaceState(wanted);
    void worker.current?.remote.setPace(wanted);
  }, []);
  const ask = useCallback(
    (line: string, quiet = false) =>
      queue.current?.ask(line, quiet) ?? Promise.resolve({ lines: [], problem: 'the power is off' }),
    [],
  );
  const stop = useCallback(() => {
    write('sent', 'M112');
    void worker.current?.remote.send('M112');
  }, [write]);
  const hold = useCallback(
    (partId: string, held: boolean) => void worker.current?.remote.hold(partId, held),
    [],
  );

  const control = useMemo(
    (): BenchControl => ({
      power,
      ...(news && { view: news.view }),
      readings,
      ...(store && { store }),
      nowS: news?.nowS ?? 0,
      pace,
      setPace,
      powerOn,
      powerOff,
      ask,
      stop,
      hold,
    }),
    [power, news, readings, store, pace, setPace, powerOn, powerOff, ask, stop, hold],
  );
  return <BenchContext value={control}>{children}</BenchContext>;
}

export function useBench(): BenchControl {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error('useBench needs a BenchProvider around it');
  return bench;
}

/** Whether the card in the slot holds an image the board has not got yet. */
function offersImage({ card, imageHash }: BoardOnBench, board: Board): boolean {
  const extension = `.${board.routes[0].rule.extension.toUpperCase()}`;
  return (
    card?.files.some((file) => file.name.toUpperCase().endsWith(extension) && file.imageHash !== imageHash) ??
    false
  );
}

/** Only one window may hold a machine's link; undefined when another does. */
async function holdLink(machineId: string): Promise<(() => void) | undefined> {
  return new Promise((decided) => {
    void navigator.locks.request(`link:${machineId}`, { ifAvailable: true }, (lock) => {
      if (!lock) return decided(undefined);
      return new Promise<void>((letGo) => decided(letGo));
    });
  });
}
