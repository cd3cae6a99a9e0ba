/** Everything a board gives its firmware, by the names the firmware imports. */
export interface Hardware {
  pin_mode(pin: number, mode: number): void;
  pin_write(pin: number, high: number): void;
  pin_read(pin: number): number;
  step(pin: number): void;
  pwm(pin: number, periodUs: number, highUs: number): void;
  adc(pin: number): number;
  serial_open(baud: number): void;
  serial_read(): number;
  serial_write(byte: number): void;
  clock_us(): number;
  timer(afterNs: number): void;
  store_size(): number;
  store_read(at: number): number;
  store_write(at: number, byte: number): void;
  flash_read(at: number): number;
  watchdog(): void;
}

/** A running firmware: the four ways in that it exports. */
export interface Firmware {
  start(): void;
  timer(): void;
  tick(): void;
  serial(): void;
  /** Bytes of stack used at most so far. */
  stackUsed(): number;
}

/** Marks stack that was never written. */
const PAINT = 0xa5;

/**
 * Puts an image's code on the board. The stack lies at the bottom of memory, `stackBytes` long.
 * @throws when the code is no WebAssembly, or asks for hardware the board does not have
 */
export async function loadFirmware(
  code: Uint8Array,
  hardware: Hardware,
  stackBytes: number,
): Promise<Firmware> {
  // An image is bytes in memory of its own; the hardware is a record of functions.
  const { instance } = await WebAssembly.instantiate(code as BufferSource, {
    // As above; the library knows its functions by number of arguments only.
    hw: hardware as unknown as WebAssembly.ModuleImports,
  });
  const entry = (name: string): (() => void) => {
    const found = instance.exports[`lantern_${name}`];
    if (typeof found !== 'function') throw new Error(`the image has no entry ${name}`);
    // Looked at in the line above; its shape is that of the kit's header.
    return found as () => void;
  };
  // Every image of the kit exports its memory.
  const memory = instance.exports['memory'] as WebAssembly.Memory | undefined;
  const stack = memory ? new Uint8Array(memory.buffer, 0, stackBytes) : new Uint8Array(0);
  stack.fill(PAINT);
  return {
    start: entry('start'),
    timer: entry('timer'),
    tick: entry('tick'),
    serial: entry('serial'),
    stackUsed: () => {
      const deepest = stack.findIndex((byte) => byte !== PAINT);
      return deepest < 0 ? 0 : stack.length - deepest;
    },
  };
}
