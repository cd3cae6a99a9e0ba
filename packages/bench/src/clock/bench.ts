import { asSold, type Facts } from '@jolly/core/machine/facts';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { LONGEST_LINE } from '@jolly/core/text/limits';
import { whyOf } from '@jolly/core/text/whyOf';
import { bootable, type Silence } from '../board/board';
import type { BoardState } from '../board/boardState';
import { BLOCK_BYTES, type CardBlocks } from '../board/cardBlocks';
import { keptStore } from '../board/keptStore';
import { type Driven, RunPlayer } from '../board/runs';
import { type DisplayLook, type Finger, panelOf } from '../board/panel';
import { misheard, Wire } from '../board/wire';
import {
  type Entry,
  type Firmware,
  type Hardware,
  loadFirmware,
  Watchdog,
  WATCHDOG_S,
} from '../firmware/firmware';
import { type Plant, plantOf } from '../plant/plant';
import type { Beginning, PlantView, Truth } from '../plant/truth';

const NS_PER_S = 1e9;
const TICK_NS = 1e6;
/** A block of a card takes so long, at 25 MHz. */
const CARD_NS = 0.2e6;
/** Share of a chip's time that pulses take at its highest step rate. */
const PULSE_SHARE = 0.85;
/** Bytes without the end of a line are handed over when nothing more has come for so long. */
const PAUSE_NS = 0.1e9;
/** The chip is told to be behind at most so often. */
const BEHIND_EVERY_NS = 1e9;

export interface BenchOptions {
  facts: Facts;
  state: BoardState;
  /** Decides what the facts leave open; the same seed and inputs give the same run. */
  seed?: number;
  /** Speed the host listens and talks at; the board's own when not given. */
  hostBaud?: number;
  onLine?: (line: string) => void;
  /** What the bench itself has to say: the board hangs, the chip cannot keep up. Never the image's word. */
  onNotice?: (notice: string) => void;
  onStore?: () => void;
  /** The memory card in the slot as the power comes on. */
  card?: CardBlocks;
  /** The machine the board sits in, as it was left, and when that was; a new one when not given. */
  plant?: Plant;
  /** Where a new one stands, and how warm it is, if it was powered before. */
  begins?: Beginning;
  atS?: number;
  /** Told of all pulses, as they reach the drivers. */
  onPulses?: Driven['move'];
}

/** A powered board on its machine. Time passes only in `advance`. */
export interface Bench {
  /** What runs, or why nothing does. */
  readonly running: { header: ImageHeader } | Silence;
  nowS(): number;
  /** Lets so many seconds pass on the virtual clock. */
  advance(seconds: number): void;
  /** The clock in ns, exactly, and time passing until it shows so many. */
  nowNs(): number;
  advanceTo(ns: number): void;
  /** Lets time pass until `reached` is true after something happened, at most so many seconds; says whether it was. */
  advanceUntil(reached: () => boolean, seconds: number): boolean;
  send(line: string): void;
  sendBytes(bytes: Uint8Array): void;
  hold(partId: string, held: boolean): void;
  chill(body: 'hotend' | 'bed', share: number): void;
  /** Changes how the machine really stands, and lets it take effect. */
  change(what: (live: Plant['live']) => void): void;
  view(): PlantView;
  /** What the display shows; undefined where there is none. */
  display(): DisplayLook | undefined;
  /** What a display with a serial port of its own was told last, line by line. */
  panelLines(): string[];
  /** Turns the display's knob by so many steps, right being plus, or presses it. */
  turn(steps: number): void;
  press(): void;
  /** Puts a finger on a display that is touched, or lifts it. */
  touch(finger: Finger | undefined): void;
  /** Puts a card into the slot, or takes it out. */
  putCard(card: CardBlocks | undefined): void;
  truth(): Truth;
  /** Height of the plate at a place of it, mm; undefined beside it. */
  plateAt(x: number, y: number): number | undefined;
  /** What the chip had to do since the power came on, code and pulses, as a share of what it can. */
  load(): number;
  stackUsed(): number;
  /** The board's stored settings as they are when the power goes now, and whether a byte of them is being written. */
  store(): Uint8Array;
  storing(): boolean;
}

const DARK: Silence = {
  silent: 'its logic has no supply',
  mend: 'Look whether its lamp is lit, and at the jumper that feeds it.',
};

/** Switches the power on: the board boots what its flash holds, or stays silent. */
export async function powerOn(options: BenchOptions): Promise<Bench> {
  const { facts, state } = options;
  const plant = options.plant ?? plantOf(facts, options.seed ?? 1, undefined, options.begins);
  const boot = plant.live.dark ? DARK : bootable(state, asSold(facts).board);
  const chip = facts.chip;
  const image = state.image ?? new Uint8Array(0);
  const cycleNs = NS_PER_S / chip.clock_hz;
  const pulseNs = (PULSE_SHARE * NS_PER_S) / chip.step_rate_hz;
  const notice = (text: string) => options.onNotice?.(text);
  const beganNs = (options.atS ?? 0) * NS_PER_S;
  /** Fields, not variables: each value of a variable that functions share is a new number in memory. */
  const time = {
    nowNs: beganNs,
    tickAt: beganNs + TICK_NS,
    /** The chip works until then; whatever comes meanwhile waits. */
    busyUntil: 0,
    workedNs: 0,
    /** What the firmware waits for takes its time. */
    waitedNs: 0,
    behindTold: -Infinity,
    fedAt: beganNs,
    /** The last byte the board sent was there. */
    byteAt: beganNs,
  };
  let crashed = false;
  let text = '';

  const store = keptStore(state.store, chip, () => options.onStore?.());
  const hostSpeed = () => options.hostBaud ?? (line.baud() || 115200);
  /** Whole lines, at the time their last byte is there. */
  const leaving: { at: number; line: string }[] = [];
  const line = new Wire((byte, at) => {
    const letter = String.fromCharCode(line.understands(hostSpeed()) ? byte : misheard(byte));
    handOverAfterPause(at);
    time.byteAt = at;
    if (letter !== '\n') text += letter;
    if (letter === '\n' || text.length >= LONGEST_LINE) handOver(at);
  });
  function handOver(at: number): void {
    leaving.push({ at, line: text });
    text = '';
  }
  /** A line without an end, as one at another speed is, is handed over as it is. */
  function handOverAfterPause(until: number): void {
    if (text !== '' && until - time.byteAt > PAUSE_NS) handOver(time.byteAt + PAUSE_NS);
  }
  const player = new RunPlayer(
    {
      move(pulses, entries, seconds, at) {
        options.onPulses?.(pulses, entries, seconds, at);
        plant.move(pulses, entries, seconds, at);
      },
      mark: () => plant.mark(),
      rewind: () => plant.rewind(),
    },
    pulseNs,
  );
  const settle = () => {
    plant.tell(time.nowNs / NS_PER_S);
    player.settle(time.nowNs);
  };

  const hardware: Hardware = {
    pin_mode: (pin, mode) => plant.pins.setMode(pin, mode),
    pin_write: (pin, high) => {
      settle();
      plant.write(time.nowNs / NS_PER_S, pin, high !== 0);
    },
    pin_read: (pin) => {
      settle();
      return plant.readPin(pin) ? 1 : 0;
    },
    pwm: (pin, periodUs, highUs) => plant.pwm(time.nowNs / NS_PER_S, pin, periodUs >>> 0, highUs >>> 0),
    adc: (pin) => plant.adc(time.nowNs / NS_PER_S, pin),
    motor: (motor, stepPin, dirPin, pulseNs, setupNs) =>
      plant.motor(motor, stepPin, dirPin, pulseNs >>> 0, setupNs >>> 0),
    runs: (at, count, lengthNs) =>
      void (memory && player.push(memory, at >>> 0, count >>> 0, lengthNs >>> 0, time.nowNs)),
    runs_room: () => player.room(time.nowNs),
    runs_halt: () => player.halt(time.nowNs),
    runs_over: () => (player.over(time.nowNs) ? 1 : 0),
    steps_made: (motor) => player.made(motor, time.nowNs),
    watch: (pin, level) =>
      player.watch(pin < 0 ? undefined : () => plant.readPin(pin) === (level !== 0), time.nowNs),
    watch_met: () => (player.watchMet() ? 1 : 0),
    driver_write: (at, address, what, value) => plant.drivers.tell(at, address, what, value),
    driver_read: (at, address, what) => {
      plant.tell(time.nowNs / NS_PER_S);
      return plant.drivers.ask(at, address, what);
    },
    display: (at, byte) => panel.write(at >>> 0, byte),
    knob_turned: () => panel.turned(),
    knob_pressed: () => (panel.pressed() ? 1 : 0),
    touch: () => panel.touched(),
    // The host sits on the first port.
    serial_open: (port, baud) => void (port === 0 && line.open(baud)),
    panel_write: (port, byte) => void (port !== 0 && panel.hear(byte & 0xff)),
    serial_read: (to, room) => line.read(bytes, to >>> 0, room >>> 0),
    serial_room: () => line.room(time.nowNs),
    serial_write: (byte) => line.write(byte & 0xff, time.nowNs),
    card_there: () => (card ? 1 : 0),
    card_read: (block, to) => {
      spend(CARD_NS);
      return memory && card?.read(block >>> 0, new Uint8Array(memory.buffer, to >>> 0, BLOCK_BYTES)) ? 1 : 0;
    },
    card_write: (block, from) => {
      spend(CARD_NS);
      return memory && card?.write(block >>> 0, new Uint8Array(memory.buffer, from >>> 0, BLOCK_BYTES))
        ? 1
        : 0;
    },
    store_size: () => state.store.length,
    store_read: (at) => store.read(at >>> 0),
    store_write: (at, byte) => store.write(at >>> 0, byte & 0xff, time.nowNs),
    store_busy: () => (store.busy(time.nowNs) ? 1 : 0),
    flash_read: (at) => image[at >>> 0] ?? 0xff,
    watchdog: () => void (time.fedAt = time.nowNs),
  };

  const panel = panelOf(facts);
  let card = options.card;
  const spend = (ns: number) => void (time.waitedNs += ns);

  let firmware: Firmware | undefined;
  let memory: DataView | undefined;
  let bytes: Uint8Array = new Uint8Array(0);

  function crash(why: string): void {
    crashed = true;
    player.halt(time.nowNs);
    notice(`the board hangs: ${why}`);
  }

  /** Enters the firmware; what it does takes its time. */
  function enter(entry: Entry): void {
    if (!firmware || crashed) return;
    try {
      time.waitedNs = 0;
      const took = firmware.enter(entry) * cycleNs + time.waitedNs;
      time.workedNs += took;
      time.busyUntil = Math.max(time.busyUntil, time.nowNs) + took;
    } catch (error) {
      crash(error instanceof Watchdog ? error.message : whyOf(error));
    }
  }

  function tellBehind(lateNs: number): void {
    if (lateNs < 2 * TICK_NS || time.nowNs - time.behindTold < BEHIND_EVERY_NS) return;
    time.behindTold = time.nowNs;
    notice(`the chip cannot keep up: it is ${(lateNs / 1e6).toFixed(1)} ms behind`);
  }

  function hearUntil(until: number): void {
    handOverAfterPause(until);
    if (leaving.length === 0) return;
    for (let next = leaving[0]; next && next.at <= until; next = leaving[0]) {
      leaving.shift();
      if (!plant.live.linkOut) options.onLine?.(next.line);
    }
  }

  function happen(entry: Entry, at: number): void {
    time.nowNs = Math.max(at, time.busyUntil, time.nowNs);
    tellBehind(time.nowNs - at);
    if (entry === 'runs') player.called();
    if (entry === 'serial') line.arrive(time.nowNs);
    // Ticks that were missed are not made up for.
    if (entry === 'tick') time.tickAt = Math.max(time.tickAt + TICK_NS, time.nowNs);
    enter(entry);
    if (!crashed && time.nowNs - time.fedAt > WATCHDOG_S * NS_PER_S) crash('its watchdog was not fed');
  }

  function run(until: number, reached?: () => boolean): boolean {
    while (firmware && !crashed) {
      const runsAt = player.nextCall();
      const serialAt = line.nextCall();
      const at = Math.min(runsAt, serialAt, time.tickAt);
      if (at > until || time.busyUntil > until) break;
      // Of what comes at one time segments are first: they may not wait for a tick.
      happen(at === runsAt ? 'runs' : at === serialAt ? 'serial' : 'tick', at);
      hearUntil(time.nowNs);
      if (reached?.()) return true;
    }
    // What plays is not looked at here: where a stretch of time was cut must not change what comes.
    time.nowNs = Math.max(time.nowNs, until);
    hearUntil(time.nowNs);
    return reached?.() ?? false;
  }

  if (!('silent' in boot)) {
    firmware = await loadFirmware(boot.code, hardware, chip, facts.kit.stack_bytes);
    memory = firmware.memory();
    bytes = new Uint8Array(memory.buffer);
    enter('start');
  }
  const change = (what: (live: Plant['live']) => void) => {
    settle();
    what(plant.live);
    plant.rewire(time.nowNs / NS_PER_S);
  };

  return {
    running: 'silent' in boot ? boot : { header: boot.header },
    nowS: () => time.nowNs / NS_PER_S,
    advance: (seconds) => void run(time.nowNs + seconds * NS_PER_S),
    nowNs: () => time.nowNs,
    advanceTo: (ns) => void run(ns),
    advanceUntil: (reached, seconds) => reached() || run(time.nowNs + seconds * NS_PER_S, reached),
    send: (told) => void (plant.live.linkOut || line.hostSendsLine(told, hostSpeed(), time.nowNs)),
    sendBytes: (sent) => void (plant.live.linkOut || line.hostSends(sent, hostSpeed(), time.nowNs)),
    hold: (partId, held) => change((live) => void (held ? live.held.add(partId) : live.held.delete(partId))),
    chill: (body, share) => change((live) => void live.chilled.set(body, share)),
    change,
    view: () => plant.view(time.nowNs / NS_PER_S),
    display: panel.look,
    panelLines: panel.lines,
    turn: panel.turn,
    press: panel.press,
    touch: panel.touch,
    putCard: (put) => void (card = put),
    plateAt: (x, y) => plant.plateAt(x, y),
    truth: () => plant.truth(time.nowNs / NS_PER_S),
    load: () => (time.workedNs + player.pulses() * pulseNs) / Math.max(1, time.nowNs - beganNs),
    stackUsed: () => firmware?.stackUsed() ?? 0,
    store: () => store.bytes(time.nowNs),
    storing: () => store.busy(time.nowNs),
  };
}
