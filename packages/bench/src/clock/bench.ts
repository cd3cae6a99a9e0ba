import { asSold, type Facts } from '@jolly/core/machine/facts';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { bootable, type Silence } from '../board/board';
import type { BoardState } from '../board/boardState';
import type { CardBlocks } from '../board/cardBlocks';
import { keptStore } from '../board/keptStore';
import { type DisplayLook, type Finger, panelOf } from '../board/panel';
import { type Driven, RunPlayer } from '../board/runs';
import { loadFirmware } from '../firmware/firmware';
import { type Plant, plantOf } from '../plant/plant';
import type { Beginning, PlantView, Truth } from '../plant/truth';
import { type Around, type FirmwareMemory, hardwareOf } from './boardHardware';
import { BoardTime, NS_PER_S } from './boardTime';
import { HostLine } from './hostLine';
import { RunningChip } from './runningChip';

/** Share of a chip's time that pulses take at its highest step rate. */
const PULSE_SHARE = 0.85;

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
  const { chip } = facts;
  const plant = options.plant ?? plantOf(facts, options.seed ?? 1, undefined, options.begins);
  const boot = plant.live.dark ? DARK : bootable(state, asSold(facts).board);
  const time = new BoardTime((options.atS ?? 0) * NS_PER_S);
  const host = new HostLine(
    time.began,
    options.hostBaud,
    () => plant.live.linkOut,
    (line) => options.onLine?.(line),
  );
  const pulseNs = (PULSE_SHARE * NS_PER_S) / chip.step_rate_hz;
  const player = new RunPlayer(drivenBy(plant, options.onPulses), pulseNs);
  const running = new RunningChip(time, player, host, NS_PER_S / chip.clock_hz, (text) =>
    options.onNotice?.(text),
  );
  const around: Around = {
    time,
    plant,
    player,
    wire: host.wire,
    panel: panelOf(facts),
    slot: { card: options.card },
    store: keptStore(state.store, chip, () => options.onStore?.()),
    storeBytes: state.store.length,
    image: state.image ?? new Uint8Array(0),
  };
  if (!('silent' in boot)) {
    const memory: FirmwareMemory = { view: new DataView(new ArrayBuffer(0)), bytes: new Uint8Array(0) };
    const firmware = await loadFirmware(boot.code, hardwareOf(around, memory), chip, facts.kit.stack_bytes);
    memory.view = firmware.memory();
    memory.bytes = new Uint8Array(memory.view.buffer);
    running.start(firmware);
  }
  const load = () => (time.worked + player.pulses() * pulseNs) / Math.max(1, time.now - time.began);
  return {
    running: 'silent' in boot ? boot : { header: boot.header },
    ...passing(time, running),
    ...handsOn(around, host),
    ...sightsOf(around),
    load,
    stackUsed: () => running.stackUsed(),
  };
}

/** What pulses move: the machine, and whoever is told of them. */
function drivenBy(plant: Plant, told: Driven['move'] | undefined): Driven {
  return {
    move(pulses, entries, seconds, at) {
      told?.(pulses, entries, seconds, at);
      plant.move(pulses, entries, seconds, at);
    },
    mark: () => plant.mark(),
    rewind: () => plant.rewind(),
  };
}

type Passing = Pick<Bench, 'nowS' | 'nowNs' | 'advance' | 'advanceTo' | 'advanceUntil'>;

function passing(time: BoardTime, chip: RunningChip): Passing {
  return {
    nowS: () => time.seconds(),
    nowNs: () => time.now,
    advance: (seconds) => void chip.run(time.now + seconds * NS_PER_S),
    advanceTo: (ns) => void chip.run(ns),
    advanceUntil: (reached, seconds) => reached() || chip.run(time.now + seconds * NS_PER_S, reached),
  };
}

type HandsOn = Pick<
  Bench,
  'send' | 'sendBytes' | 'change' | 'hold' | 'chill' | 'turn' | 'press' | 'touch' | 'putCard'
>;

function handsOn({ time, plant, player, panel, slot }: Around, host: HostLine): HandsOn {
  const change: Bench['change'] = (what) => {
    plant.tell(time.seconds());
    player.settle(time.now);
    what(plant.live);
    plant.rewire(time.seconds());
  };
  return {
    send: (line) => host.send(line, time.now),
    sendBytes: (bytes) => host.sendBytes(bytes, time.now),
    change,
    hold: (partId, held) => change((live) => void (held ? live.held.add(partId) : live.held.delete(partId))),
    chill: (body, share) => change((live) => void live.chilled.set(body, share)),
    turn: panel.turn,
    press: panel.press,
    touch: panel.touch,
    putCard: (card) => void (slot.card = card),
  };
}

type Sights = Pick<Bench, 'view' | 'display' | 'panelLines' | 'truth' | 'plateAt' | 'store' | 'storing'>;

function sightsOf({ time, plant, panel, store }: Around): Sights {
  return {
    view: () => plant.view(time.seconds()),
    display: panel.look,
    panelLines: panel.lines,
    truth: () => plant.truth(time.seconds()),
    plateAt: (x, y) => plant.plateAt(x, y),
    store: () => store.bytes(time.now),
    storing: () => store.busy(time.now),
  };
}
