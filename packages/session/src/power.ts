import {
  type Beginning,
  type BenchLink,
  type BenchLook,
  type BoardState,
  type Finger,
  type Pace,
  type PrintCard,
  type PrintFile,
  type Recording,
  type Silence,
  unpacked,
} from '@jolly/bench';
import { faultsLaid, type HandAct, withAct } from '@jolly/core/bringup/handAct';
import type { Client } from '@jolly/contract/client';
import type { BoardOnBench } from '@jolly/contract/endpoints/board';
import type { Board } from '@jolly/core/board/board';
import { cardRouteOf } from '@jolly/core/board/route';
import { type BoardReadings, withLine } from '@jolly/core/bringup/boardReading';
import { type HeatCurve, withPoint } from '@jolly/core/bringup/heatCurve';
import type { Answer } from '@jolly/core/bringup/procedure';
import { parseReply } from '@jolly/core/bringup/reply';
import { isUnreadable } from '@jolly/core/bringup/unreadable';
import type { MachineRecord } from '@jolly/core/checks/record';
import { imagesOn } from '@jolly/core/flash/judgeCard';
import { type AskQueue, askQueue, type Heard } from './askQueue';
import type { Silent } from './lostBoard';
import { inTurn, store, type Watched } from './store';
import { whyOf } from '@jolly/core/text/whyOf';

export type Power =
  | { state: 'off' }
  | { state: 'starting' }
  | { state: 'on'; imageHash: string | null; silent?: undefined }
  | ({ state: 'on'; imageHash: string | null } & Silence)
  | { state: 'held'; by: string };

export type StoreWord = NonNullable<MachineRecord['store']>;

/** A machine on the bench as this window knows it. */
export interface Powered {
  power: Power;
  /** What the board says of place, heat, switches and state, each with when it was heard; none while it is off. */
  readings: BoardReadings;
  /** It was asked, and nothing that can be read has come: since the power came on, or any more. */
  mute?: Silent | undefined;
  /** What the board said of its stored settings when it woke up. */
  store?: StoreWord;
  look?: BenchLook;
  /** Temperatures since the power came on, as the board told them. */
  curve: HeatCurve;
  pace: Pace;
  /** What hands have done to the machine and not taken back. */
  hands: readonly HandAct[];
  /** Names of the files on the card in the slot; missing while there is none to print from. */
  prints?: string[];
}

export interface PowerPorts {
  client: Pick<Client, 'board' | 'flash' | 'image' | 'putScrews'>;
  /** The board that is powered, as the machine file has it now. */
  board: () => Board;
  /** Makes the link to the board with what it holds; what is seen of it and what it stores is told. */
  link: (
    state: BoardState,
    told: { look: (look: BenchLook) => void },
    begins: Beginning | undefined,
    hands: readonly HandAct[],
  ) => BenchLink;
  /** What the firmware stored before the power went is kept; refuses while it is not. */
  storeKept: () => Promise<void>;
  /** Only one window may hold a machine's link; undefined when another does. */
  holdLink: () => Promise<(() => void) | undefined>;
  say: (kind: 'sent' | 'heard' | 'done', text: string) => void;
  /** The bootloader was offered the card: what is known of the board is old. */
  offered: () => void;
  clock: () => number;
  /** Calls back every so many milliseconds; the returned function ends it. */
  every: (ms: number, run: () => void) => () => void;
}

export interface PowerControl {
  powered: Watched<Powered>;
  /** A fresh image on a card in the slot is offered to the bootloader first, unless that was just done. */
  powerOn(cardSeen?: boolean): Promise<void>;
  powerOff(): void;
  /** Sends a line and waits for the board's closing line. */
  ask(line: string, quiet?: boolean, heard?: Heard): Promise<Answer>;
  /** Emergency stop: goes past everything that waits. */
  stop(): void;
  /** Does something to the machine by hand, or takes it back; it stays so over power-offs. */
  hand(act: HandAct): void;
  /** Turns the display's knob, right being plus, or presses it. */
  turn(steps: number): void;
  press(): void;
  /** Puts a finger on a display that is touched, or lifts it. */
  touch(finger: Finger | undefined): void;
  /** Puts a card with files to print into the slot, or takes it out. It keeps what the board writes, over power-offs. */
  putPrints(files: readonly PrintFile[] | undefined): void;
  /** The run so far, for a proof to rest on. */
  recording(): Promise<Recording | undefined>;
  setPace(pace: Pace): void;
  /** A test is under way: see `BenchLink`. */
  setStepping(on: boolean): void;
}

/** How often the board is asked how things stand, in milliseconds. */
const POLL_MS = 500;
const OFF = { power: { state: 'off' }, readings: {}, curve: [] } as const;

/** Whether the board says that it is on and talks. */
export const isAwake = ({ power }: Powered): boolean => power.state === 'on' && power.silent === undefined;

/** There is power, or it is being switched on: nothing may be plugged. */
export const isLive = ({ power }: Powered): boolean => power.state === 'on' || power.state === 'starting';

/** The board said that it has stopped, and was not woken since. */
export const isStopped = ({ readings }: Powered): boolean => readings['state']?.values['doing'] === 'stopped';

const aborted = (signal: AbortSignal): Promise<undefined> =>
  new Promise((resolve) => signal.addEventListener('abort', () => resolve(undefined)));

/** Whether the card in the slot holds an image the board has not got yet. */
function offersImage({ card, imageHash }: BoardOnBench, board: Board): boolean {
  const route = cardRouteOf(board);
  if (!route) return false;
  return imagesOn(card?.files ?? [], route).some((file) => file.imageHash !== imageHash);
}

/** The bootloader is offered an image that lies on the card and is not on the board yet. */
async function offerCard(id: string, { client, board, offered }: PowerPorts, laid: string[]): Promise<void> {
  if (!offersImage(await client.board({ id }), board())) return;
  await client.flash({ id }, { laid });
  offered();
}

/** What the board holds, with the bytes of its image. */
async function boardAsItIs(
  id: string,
  client: PowerPorts['client'],
): Promise<{ board: BoardOnBench; image: Uint8Array | null }> {
  const board = await client.board({ id });
  if (!board.imageHash) return { board, image: null };
  const image = await client.image({ hash: board.imageHash });
  return { board, image: new Uint8Array(await image.arrayBuffer()) };
}

/** A plate that was trammed stays so: what was turned is kept, one turn after the other, or said not to be. */
function screwKeeper(id: string, { client, say }: PowerPorts, hands: () => readonly HandAct[]): () => void {
  const turn = inTurn();
  const keep = async () => {
    const screws = hands().flatMap((act) => ('screw' in act ? [act] : []));
    try {
      await client.putScrews({ id }, { screws });
    } catch (error) {
      say('done', `How the screws were turned is known to this window alone: ${whyOf(error)}`);
    }
  };
  return () => void turn(keep);
}

/** Power, link and readings of one machine. Everything that is sent to it goes through here. */
export function powerControl(id: string, ports: PowerPorts): PowerControl {
  const { client, say } = ports;
  const powered = store<Powered>({ ...OFF, pace: 1, hands: [] });
  let link: BenchLink | undefined;
  let queue: AskQueue | undefined;
  let prints: PrintCard | undefined;
  /** Aborted at every power-off, so that a power-on under way ends instead of switching on later. */
  let waking: AbortController | undefined;

  const keepScrews = screwKeeper(id, ports, () => powered.now().hands);
  const change = (part: Partial<Powered>) => powered.set({ ...powered.now(), ...part });

  /** Where the machine stood and how warm it was when its power went. */
  let left: { was: Omit<Beginning, 'offS'>; at: number } | undefined;

  function powerOff(): void {
    const before = powered.now();
    if (before.look) {
      const { position, temperatureC } = before.look.view;
      left = { was: { position, temperatureC }, at: ports.clock() };
    }
    waking?.abort();
    waking = undefined;
    queue?.drop('the power was switched off');
    queue = undefined;
    link?.close();
    link = undefined;
    powered.set({
      ...OFF,
      pace: before.pace,
      hands: before.hands,
      ...(before.prints && { prints: before.prints }),
    });
    if (before.power.state === 'on') say('done', 'Power off');
  }

  function seen(look: BenchLook): void {
    queue?.passed(look.nowS);
    change({ look, mute: queue?.silent() });
  }

  function hear(line: string, atS: number): void {
    const { readings, curve, look } = powered.now();
    const { word, values } = parseReply(line);
    const known = withLine(readings, line, ports.clock());
    // The firmware says one of these words; see lantern/README.
    if (word === 'awake') change({ readings: known, store: values['store'] as StoreWord });
    else if (known !== readings) change({ readings: known, curve: withPoint(curve, known, look?.nowS ?? 0) });
    const quiet = queue?.hear(line, atS) === true;
    if (isUnreadable(line)) return say('heard', `(${line.length} letters that cannot be read)`);
    if (!quiet) say('heard', line);
  }

  async function wakeUp(cardSeen: boolean, signal: AbortSignal): Promise<void> {
    change({ power: { state: 'starting' } });
    const letGo = await ports.holdLink();
    if (!letGo) return change({ power: { state: 'held', by: 'another window of Jolly Cog or by a tool' } });
    if (signal.aborted) return letGo();
    signal.addEventListener('abort', letGo);
    // Switched off and on quickly, the board would wake up with what it stored before.
    await ports.storeKept();
    if (!cardSeen) await offerCard(id, ports, faultsLaid(powered.now().hands));
    const { board, image } = await boardAsItIs(id, client);
    // Screws stand as somebody left them; what this window turned since counts more.
    change({ hands: powered.now().hands.reduce(withAct, [...(board.screws ?? [])]) });
    if (signal.aborted) return;
    await open(unpacked(board, image), board.imageHash, signal);
  }

  async function open(state: BoardState, imageHash: string | null, signal: AbortSignal): Promise<void> {
    const begins = left && { ...left.was, offS: Math.max(0, (ports.clock() - left.at) / 1000) };
    const opened = ports.link(
      state,
      {
        look: (look) => {
          if (!signal.aborted) seen(look);
        },
      },
      begins,
      powered.now().hands,
    );
    link = opened;
    queue = askQueue((line, quiet) => {
      if (!quiet) say('sent', line);
      opened.writeLine(line);
    });
    opened.setPace(powered.now().pace);
    opened.putCard(prints);
    const running = opened.open((line, atS) => {
      if (!signal.aborted) hear(line, atS);
    });
    // A link that is closed before it is open never answers.
    const woken = await Promise.race([running, aborted(signal)]);
    if (!woken || signal.aborted) return;
    const { silent } = woken;
    say('done', silent === undefined ? 'Power on' : `Power on, but the board is silent: ${silent}`);
    change({ power: { state: 'on', imageHash, ...woken } });
    if (silent === undefined) signal.addEventListener('abort', listen());
  }

  /** A long command holds the line; the board then tells by itself how things stand. */
  function listen(): () => void {
    const poll = () => {
      if (queue?.idle()) void queue.ask('state', true);
    };
    poll();
    return ports.every(POLL_MS, poll);
  }

  return {
    powered,
    async powerOn(cardSeen = false) {
      powerOff();
      const { signal } = (waking = new AbortController());
      try {
        await wakeUp(cardSeen, signal);
      } catch (error) {
        if (signal.aborted) return;
        say('done', `The power stays off: ${whyOf(error)}`);
        powerOff();
      }
    },
    powerOff,
    ask: (line, quiet = false, heard) =>
      queue?.ask(line, quiet, heard) ?? Promise.resolve({ lines: [], problem: 'the power is off' }),
    stop() {
      say('sent', 'M112');
      link?.writeLine('M112');
    },
    hand(act) {
      change({ hands: withAct(powered.now().hands, act) });
      link?.hand(act);
      if ('screw' in act) keepScrews();
    },
    turn: (steps) => link?.turn(steps),
    press: () => link?.press(),
    touch: (finger) => link?.touch(finger),
    putPrints(files) {
      prints = files && { files, written: new Map() };
      link?.putCard(prints);
      change({ prints: files?.map(({ name }) => name) });
    },
    async recording() {
      const recorded = await link?.recording();
      // Who is given it looks at what the board stored by then, too.
      await ports.storeKept();
      return recorded;
    },
    setStepping: (on) => link?.setStepping(on),
    setPace(pace) {
      change({ pace });
      link?.setPace(pace);
    },
  };
}
