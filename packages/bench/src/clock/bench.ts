import { whyOf } from '@jolly/core/text/whyOf';
import { LONGEST_LINE } from '@jolly/core/text/limits';
import type { Facts } from '@jolly/core/machine/facts';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { bootable, type BoardState } from '../board/board';
import { type Firmware, type Hardware, loadFirmware } from '../firmware/firmware';
import { plantOf, type PlantView } from '../plant/plant';

const NS_PER_S = 1e9;
const TICK_NS = 1e6;
/** Start bit, eight bits, stop bit. */
const BITS_PER_BYTE = 10;

export interface BenchOptions {
  facts: Facts;
  state: BoardState;
  /** Decides what the facts leave open; the same seed and inputs give the same run. */
  seed?: number;
  /** Speed the host listens and talks at; the board's own when not given. */
  hostBaud?: number;
  onLine?: (line: string) => void;
  onStore?: () => void;
}

/** A powered board on its machine. Time passes only in `advance`. */
export interface Bench {
  /** What runs, or why nothing does. */
  readonly running: { header: ImageHeader } | { silent: string };
  nowS(): number;
  /** Lets so many seconds pass on the virtual clock. */
  advance(seconds: number): void;
  send(line: string): void;
  hold(partId: string, held: boolean): void;
  chill(body: 'hotend' | 'bed', share: number): void;
  view(): PlantView;
  stackUsed(): number;
  /** The board's stored settings as they are now. */
  store(): Uint8Array;
}

/** Switches the power on: the board boots what its flash holds, or stays silent. */
export async function powerOn(options: BenchOptions): Promise<Bench> {
  const { facts, state } = options;
  const boot = bootable(state, facts.board);
  const plant = plantOf(facts, options.seed ?? 1);
  const store = Uint8Array.from(state.store);
  let nowNs = 0;
  let timerAt = Infinity;
  let tickAt = TICK_NS;
  let boardBaud = 0;
  let crashed: string | undefined;
  let text = '';
  const arriving: { at: number; byte: number }[] = [];
  const received: number[] = [];
  const nowS = () => nowNs / NS_PER_S;
  const image = state.image ?? new Uint8Array(0);

  const emit = (line: string) => options.onLine?.(line);
  /** A byte sent at one speed and heard at another is another byte. */
  const overTheWire = (byte: number) =>
    options.hostBaud === undefined || options.hostBaud === boardBaud ? byte : (byte * 37 + 129) & 0xff;

  const hardware: Hardware = {
    pin_mode: (pin, mode) => plant.pins.setMode(pin, mode),
    pin_write: (pin, high) => plant.pins.write(pin, high !== 0),
    pin_read: (pin) => (plant.readPin(pin) ? 1 : 0),
    step: (pin) => plant.step(pin),
    pwm: (pin, periodUs, highUs) => plant.pwm(nowS(), pin, periodUs === 0 ? 0 : highUs / periodUs, highUs),
    adc: (pin) => plant.adc(nowS(), pin),
    serial_open: (baud) => void (boardBaud = baud >>> 0),
    serial_read: () => received.shift() ?? -1,
    serial_write: (byte) => {
      const letter = String.fromCharCode(overTheWire(byte & 0xff));
      if (letter !== '\n') text += letter;
      // A line without an end is handed over as it is.
      if (letter !== '\n' && text.length < LONGEST_LINE) return;
      emit(text);
      text = '';
    },
    clock_us: () => Math.floor(nowNs / 1000) >>> 0,
    timer: (afterNs) => void (timerAt = afterNs === 0 ? Infinity : nowNs + (afterNs >>> 0)),
    store_size: () => store.length,
    store_read: (at) => store[at >>> 0] ?? 0xff,
    store_write: (at, byte) => {
      if (at >>> 0 >= store.length) return;
      store[at >>> 0] = byte;
      options.onStore?.();
    },
    flash_read: (at) => image[at >>> 0] ?? 0xff,
    watchdog: () => undefined,
  };

  let firmware: Firmware | undefined;
  const guarded = (call: () => void) => {
    try {
      call();
    } catch (error) {
      crashed = whyOf(error);
      emit(`(the board hangs: ${crashed})`);
    }
  };
  if (!('silent' in boot)) {
    firmware = await loadFirmware(boot.code, hardware, facts.kit.stack_bytes);
    guarded(firmware.start);
  }

  function advance(seconds: number): void {
    const until = nowNs + seconds * NS_PER_S;
    while (firmware && !crashed) {
      const arrives = arriving[0]?.at ?? Infinity;
      const next = Math.min(timerAt, tickAt, arrives);
      if (next > until) break;
      nowNs = next;
      if (arrives === next) {
        const arrived = arriving.shift();
        if (arrived) received.push(overTheWire(arrived.byte));
        guarded(firmware.serial);
      } else if (timerAt === next) {
        timerAt = Infinity;
        guarded(firmware.timer);
      } else {
        tickAt += TICK_NS;
        guarded(firmware.tick);
      }
    }
    nowNs = until;
  }

  return {
    running: 'silent' in boot ? boot : { header: boot.header },
    nowS,
    advance,
    send(line) {
      const perByte = (BITS_PER_BYTE * NS_PER_S) / (options.hostBaud ?? (boardBaud || 115200));
      let at = Math.max(nowNs, arriving.at(-1)?.at ?? 0);
      for (const letter of `${line}\n`)
        arriving.push({ at: (at += perByte), byte: letter.charCodeAt(0) & 0xff });
    },
    hold: plant.hold,
    chill: (body, share) => plant.chill(nowS(), body, share),
    view: () => plant.view(nowS()),
    stackUsed: () => firmware?.stackUsed() ?? 0,
    store: () => Uint8Array.from(store),
  };
}
