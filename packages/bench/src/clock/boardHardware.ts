import { BLOCK_BYTES, type CardBlocks } from '../board/cardBlocks';
import type { KeptStore } from '../board/keptStore';
import type { Panel } from '../board/panel';
import type { RunPlayer } from '../board/runs';
import type { Wire } from '../board/wire';
import type { Hardware } from '../firmware/firmware';
import type { Plant } from '../plant/plant';
import type { BoardTime } from './boardTime';

/** A block of a card takes so long, at 25 MHz. */
const CARD_NS = 0.2e6;
/** The host sits on the first port, a display with a port of its own on another. */
const HOST_PORT = 0;
/** What a byte of flash reads as that no image has written. */
const ERASED = 0xff;

/** What the chip's pins and ports lead to. */
export interface Around {
  time: BoardTime;
  plant: Plant;
  player: RunPlayer;
  wire: Wire;
  panel: Panel;
  slot: { card: CardBlocks | undefined };
  store: KeptStore;
  storeBytes: number;
  image: Uint8Array;
}

/** The firmware's memory, as it is once the firmware is loaded. */
export interface FirmwareMemory {
  view: DataView;
  bytes: Uint8Array;
}

/** The board as its firmware sees it. */
export function hardwareOf(around: Around, memory: FirmwareMemory): Hardware {
  const { time, plant, player } = around;
  return {
    ...pinsOf(around),
    motor: (motor, stepPin, dirPin, pulseNs, setupNs) =>
      plant.motor(motor, stepPin, dirPin, pulseNs >>> 0, setupNs >>> 0),
    runs: (at, count, lengthNs) => player.push(memory.view, at >>> 0, count >>> 0, lengthNs >>> 0, time.now),
    runs_room: () => player.room(time.now),
    runs_halt: () => player.halt(time.now),
    runs_over: () => (player.over(time.now) ? 1 : 0),
    steps_made: (motor) => player.made(motor, time.now),
    watch: (pin, level) =>
      player.watch(pin < 0 ? undefined : () => plant.readPin(pin) === (level !== 0), time.now),
    watch_met: () => (player.watchMet() ? 1 : 0),
    driver_write: (at, address, what, value) => plant.drivers.tell(at, address, what, value),
    driver_read: (at, address, what) => {
      plant.tell(time.seconds());
      return plant.drivers.ask(at, address, what);
    },
    ...portsOf(around, memory),
    ...memoriesOf(around, memory),
    watchdog: () => void (time.fedAt = time.now),
  };
}

type Pins = Pick<Hardware, 'pin_mode' | 'pin_write' | 'pin_read' | 'pwm' | 'adc'>;

function pinsOf({ time, plant, player }: Around): Pins {
  /** What was to happen until now has happened before a pin is looked at or changes. */
  const settle = () => {
    plant.tell(time.seconds());
    player.settle(time.now);
  };
  return {
    pin_mode: (pin, mode) => plant.pins.setMode(pin, mode),
    pin_write: (pin, high) => {
      settle();
      plant.write(time.seconds(), pin, high !== 0);
    },
    pin_read: (pin) => {
      settle();
      return plant.readPin(pin) ? 1 : 0;
    },
    pwm: (pin, periodUs, highUs) => plant.pwm(time.seconds(), pin, periodUs >>> 0, highUs >>> 0),
    adc: (pin) => plant.adc(time.seconds(), pin),
  };
}

type Ports = Pick<
  Hardware,
  | 'display'
  | 'knob_turned'
  | 'knob_pressed'
  | 'touch'
  | 'serial_open'
  | 'panel_write'
  | 'serial_read'
  | 'serial_room'
  | 'serial_write'
>;

/** The line to the host, and the machine's own display. */
function portsOf({ time, wire, panel }: Around, memory: FirmwareMemory): Ports {
  return {
    display: (at, byte) => panel.write(at >>> 0, byte),
    knob_turned: () => panel.turned(),
    knob_pressed: () => (panel.pressed() ? 1 : 0),
    touch: () => panel.touched(),
    serial_open: (port, baud) => void (port === HOST_PORT && wire.open(baud)),
    panel_write: (port, byte) => void (port !== HOST_PORT && panel.hear(byte & 0xff)),
    serial_read: (to, room) => wire.read(memory.bytes, to >>> 0, room >>> 0),
    serial_room: () => wire.room(time.now),
    serial_write: (byte) => wire.write(byte & 0xff, time.now),
  };
}

type Memories = Pick<
  Hardware,
  | 'card_there'
  | 'card_read'
  | 'card_write'
  | 'store_size'
  | 'store_read'
  | 'store_write'
  | 'store_busy'
  | 'flash_read'
>;

/** The memory card in its slot, the stored settings, and the flash. */
function memoriesOf({ time, slot, store, storeBytes, image }: Around, memory: FirmwareMemory): Memories {
  const block = (at: number) => new Uint8Array(memory.view.buffer, at >>> 0, BLOCK_BYTES);
  return {
    card_there: () => (slot.card ? 1 : 0),
    card_read: (nth, to) => {
      time.waited += CARD_NS;
      return slot.card?.read(nth >>> 0, block(to)) ? 1 : 0;
    },
    card_write: (nth, from) => {
      time.waited += CARD_NS;
      return slot.card?.write(nth >>> 0, block(from)) ? 1 : 0;
    },
    store_size: () => storeBytes,
    store_read: (at) => store.read(at >>> 0),
    store_write: (at, byte) => store.write(at >>> 0, byte & 0xff, time.now),
    store_busy: () => (store.busy(time.now) ? 1 : 0),
    flash_read: (at) => image[at >>> 0] ?? ERASED,
  };
}
