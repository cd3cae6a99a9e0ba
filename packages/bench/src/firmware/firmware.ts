import type { Chip } from '@jolly/core/board/chip';
import { compiled } from './compiled';
import { cycleCosts } from './cycles';
import { TAKE_CYCLES } from './meter';

/** Everything a board gives its firmware, by the names the firmware imports. */
export interface Hardware {
  pin_mode(pin: number, mode: number): void;
  pin_write(pin: number, high: number): void;
  pin_read(pin: number): number;
  pwm(pin: number, periodUs: number, highUs: number): void;
  adc(pin: number): number;
  motor(motor: number, stepPin: number, dirPin: number, pulseNs: number, setupNs: number): void;
  /** `at` is where the runs lie in the firmware's memory. */
  runs(at: number, count: number, lengthNs: number): void;
  runs_room(): number;
  runs_halt(): void;
  runs_over(): number;
  steps_made(motor: number): number;
  watch(pin: number, level: number): void;
  watch_met(): number;
  driver_write(line: number, address: number, what: number, value: number): void;
  driver_read(line: number, address: number, what: number): number;
  display(at: number, byte: number): void;
  /** Steps since it was last asked; and whether it was pressed since. */
  knob_turned(): number;
  knob_pressed(): number;
  touch(): number;
  serial_open(port: number, baud: number): void;
  panel_write(port: number, byte: number): void;
  /** Into the firmware's memory. */
  serial_read(to: number, room: number): number;
  serial_room(): number;
  serial_write(byte: number): void;
  card_there(): number;
  /** A block into the firmware's memory, or out of it; 0 when it could not be done. */
  card_read(block: number, to: number): number;
  card_write(block: number, from: number): number;
  store_size(): number;
  store_read(at: number): number;
  store_write(at: number, byte: number): void;
  store_busy(): number;
  flash_read(at: number): number;
  watchdog(): void;
}

const ENTRIES = ['start', 'runs', 'tick', 'serial'] as const;
export type Entry = (typeof ENTRIES)[number];

/** A running firmware. */
export interface Firmware {
  /** Enters it and returns the cycles it took. @throws when it traps, or takes longer than the watchdog waits */
  enter(entry: Entry): number;
  /** Its memory, as the hardware reads it. */
  memory(): DataView;
  /** Bytes of stack used at most so far. */
  stackUsed(): number;
}

/** Marks stack that was never written. */
const PAINT = 0xa5;
/** An image that does not come back for so long is started anew by the chip's watchdog. */
export const WATCHDOG_S = 2;

/** Thrown when code did not come back in the watchdog's time. */
export class Watchdog extends Error {
  constructor() {
    super(`it did not come back within ${WATCHDOG_S} s; the watchdog starts the board anew`);
  }
}

/**
 * Puts an image's code on the board. The stack lies at the bottom of memory, `stackBytes` long.
 * @throws when the code is no WebAssembly, or asks for hardware the board does not have
 */
export async function loadFirmware(
  code: Uint8Array,
  hardware: Hardware,
  chip: Chip,
  stackBytes: number,
): Promise<Firmware> {
  const instance = await WebAssembly.instantiate(
    await compiled(code, cycleCosts(chip)),
    // The library knows functions by number of arguments only.
    { hw: hardware as unknown as WebAssembly.ModuleImports },
  );
  const entryOf = (name: Entry): (() => void) => {
    const found = instance.exports[`lantern_${name}`];
    if (typeof found !== 'function') throw new Error(`the image has no entry ${name}`);
    // Looked at in the line above; its shape is that of the kit's header.
    return found as () => void;
  };
  const entries = Object.fromEntries(ENTRIES.map((name) => [name, entryOf(name)])) as Record<
    Entry,
    () => void
  >; // one for each name, by the line itself
  // The meter exports it; every image of the kit exports its memory.
  const takeCycles = instance.exports[TAKE_CYCLES] as (budget: number) => number;
  const memory = instance.exports['memory'] as WebAssembly.Memory; // as above
  const view = new DataView(memory.buffer);
  const stack = new Uint8Array(memory.buffer, 0, stackBytes);
  stack.fill(PAINT);
  const most = Math.min(WATCHDOG_S * chip.clock_hz, 2 ** 31 - 1);
  takeCycles(most);
  return {
    enter(entry) {
      try {
        entries[entry]();
      } catch (error) {
        // The budget is an i32.
        if (takeCycles(most) < 0) throw new Watchdog();
        throw error;
      }
      return most - takeCycles(most);
    },
    memory: () => view,
    stackUsed: () => {
      const deepest = stack.findIndex((byte) => byte !== PAINT);
      return deepest < 0 ? 0 : stack.length - deepest;
    },
  };
}
