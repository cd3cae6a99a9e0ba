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
  const machine = new MachinePower(id, ports);
  return {
    powered: machine.powered,
    powerOn: (cardSeen = false) => machine.powerOn(cardSeen),
    powerOff: () => machine.powerOff(),
    ask: (line, quiet = false, heard) => machine.ask(line, quiet, heard),
    stop: () => machine.stop(),
    hand: (act) => machine.hand(act),
    turn: (steps) => machine.link?.turn(steps),
    press: () => machine.link?.press(),
    touch: (finger) => machine.link?.touch(finger),
    putPrints: (files) => machine.putPrints(files),
    recording: () => machine.recording(),
    setStepping: (on) => machine.link?.setStepping(on),
    setPace: (pace) => machine.setPace(pace),
  };
}

class MachinePower {
  readonly powered = store<Powered>({ ...OFF, pace: 1, hands: [] });
  link: BenchLink | undefined;
  private queue: AskQueue | undefined;
  private prints: PrintCard | undefined;
  /** Aborted at every power-off, so that a power-on under way ends instead of switching on later. */
  private waking: AbortController | undefined;
  /** Where the machine stood and how warm it was when its power went. */
  private left: { was: Omit<Beginning, 'offS'>; at: number } | undefined;
  private readonly keepScrews;

  constructor(
    private readonly id: string,
    private readonly ports: PowerPorts,
  ) {
    this.keepScrews = screwKeeper(id, ports, () => this.powered.now().hands);
  }

  async powerOn(cardSeen: boolean): Promise<void> {
    this.powerOff();
    const { signal } = (this.waking = new AbortController());
    try {
      await this.wakeUp(cardSeen, signal);
    } catch (error) {
      if (signal.aborted) return;
      this.ports.say('done', `The power stays off: ${whyOf(error)}`);
      this.powerOff();
    }
  }

  powerOff(): void {
    const before = this.powered.now();
    if (before.look) {
      const { position, temperatureC } = before.look.view;
      this.left = { was: { position, temperatureC }, at: this.ports.clock() };
    }
    this.waking?.abort();
    this.waking = undefined;
    this.queue?.drop('the power was switched off');
    this.queue = undefined;
    this.link?.close();
    this.link = undefined;
    this.powered.set({
      ...OFF,
      pace: before.pace,
      hands: before.hands,
      ...(before.prints && { prints: before.prints }),
    });
    if (before.power.state === 'on') this.ports.say('done', 'Power off');
  }

  ask(line: string, quiet: boolean, heard?: Heard): Promise<Answer> {
    return this.queue?.ask(line, quiet, heard) ?? Promise.resolve({ lines: [], problem: 'the power is off' });
  }

  stop(): void {
    this.ports.say('sent', 'M112');
    this.link?.writeLine('M112');
  }

  hand(act: HandAct): void {
    this.change({ hands: withAct(this.powered.now().hands, act) });
    this.link?.hand(act);
    if ('screw' in act) this.keepScrews();
  }

  putPrints(files: readonly PrintFile[] | undefined): void {
    this.prints = files && { files, written: new Map() };
    this.link?.putCard(this.prints);
    this.change({ prints: files?.map(({ name }) => name) });
  }

  async recording(): Promise<Recording | undefined> {
    const recorded = await this.link?.recording();
    // Who is given it looks at what the board stored by then, too.
    await this.ports.storeKept();
    return recorded;
  }

  setPace(pace: Pace): void {
    this.change({ pace });
    this.link?.setPace(pace);
  }

  private change(part: Partial<Powered>): void {
    this.powered.set({ ...this.powered.now(), ...part });
  }

  private async wakeUp(cardSeen: boolean, signal: AbortSignal): Promise<void> {
    const { id, ports } = this;
    this.change({ power: { state: 'starting' } });
    const letGo = await ports.holdLink();
    if (!letGo)
      return this.change({ power: { state: 'held', by: 'another window of Jolly Cog or by a tool' } });
    if (signal.aborted) return letGo();
    signal.addEventListener('abort', letGo);
    // Switched off and on quickly, the board would wake up with what it stored before.
    await ports.storeKept();
    if (!cardSeen) await offerCard(id, ports, faultsLaid(this.powered.now().hands));
    const { board, image } = await boardAsItIs(id, ports.client);
    // Screws stand as somebody left them; what this window turned since counts more.
    this.change({ hands: this.powered.now().hands.reduce(withAct, [...(board.screws ?? [])]) });
    if (signal.aborted) return;
    await this.open(unpacked(board, image), board.imageHash, signal);
  }

  private async open(state: BoardState, imageHash: string | null, signal: AbortSignal): Promise<void> {
    const link = this.newLink(state, signal);
    this.link = link;
    this.queue = askQueue((line, quiet) => {
      if (!quiet) this.ports.say('sent', line);
      link.writeLine(line);
    });
    link.setPace(this.powered.now().pace);
    link.putCard(this.prints);
    const running = link.open((line, atS) => {
      if (!signal.aborted) this.hear(line, atS);
    });
    // A link that is closed before it is open never answers.
    const woken = await Promise.race([running, aborted(signal)]);
    if (!woken || signal.aborted) return;
    const { silent } = woken;
    this.ports.say(
      'done',
      silent === undefined ? 'Power on' : `Power on, but the board is silent: ${silent}`,
    );
    this.change({ power: { state: 'on', imageHash, ...woken } });
    if (silent === undefined) signal.addEventListener('abort', this.listen());
  }

  private newLink(state: BoardState, signal: AbortSignal): BenchLink {
    const { left, ports } = this;
    const begins = left && { ...left.was, offS: Math.max(0, (ports.clock() - left.at) / 1000) };
    const look = (seen: BenchLook) => {
      if (!signal.aborted) this.see(seen);
    };
    return ports.link(state, { look }, begins, this.powered.now().hands);
  }

  private see(look: BenchLook): void {
    this.queue?.passed(look.nowS);
    this.change({ look, mute: this.queue?.silent() });
  }

  private hear(line: string, atS: number): void {
    const { readings, curve, look } = this.powered.now();
    const { word, values } = parseReply(line);
    const known = withLine(readings, line, this.ports.clock());
    // The firmware says one of these words; see lantern/README.
    if (word === 'awake') this.change({ readings: known, store: values['store'] as StoreWord });
    else if (known !== readings)
      this.change({ readings: known, curve: withPoint(curve, known, look?.nowS ?? 0) });
    const quiet = this.queue?.hear(line, atS) === true;
    if (isUnreadable(line)) return this.ports.say('heard', `(${line.length} letters that cannot be read)`);
    if (!quiet) this.ports.say('heard', line);
  }

  /** A long command holds the line; the board then tells by itself how things stand. */
  private listen(): () => void {
    const poll = () => {
      if (this.queue?.idle()) void this.queue.ask('state', true);
    };
    poll();
    return this.ports.every(POLL_MS, poll);
  }
}
