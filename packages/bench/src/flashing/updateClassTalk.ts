import type { FlashMemory } from './flashMemory';
import { type Dialog, hexOf, bytesOfHex, type Listener, type Talk, word, wordAt } from './talk';

/*
 * USB's class for device firmware upgrade 1.1: setup packets of eight bytes, then data. Block 0 carries the address the
 * next blocks count from, so that an image can begin behind a bootloader.
 */
const SETUP = 8;
const OUT = 0x21;
const IN = 0xa1;
const REQUEST = { download: 1, upload: 2, status: 3, clear: 4 };
const STATUS_BYTES = 6;
const STATE = { idle: 2, downloadIdle: 5, error: 10 };
/** Blocks are counted from here on; what comes before is not data. */
const FIRST_BLOCK = 2;
const SET_ADDRESS = 0x21;

/** The device: it erases what it writes, block by block, and lets itself be read back. */
export function updateListener(memory: FlashMemory): Listener {
  let setup: number[] = [];
  let data: number[] = [];
  let base = memory.ends;
  let state = STATE.idle;

  function download(block: number, bytes: Uint8Array): boolean {
    if (block === 0) {
      if (bytes[0] !== SET_ADDRESS) return false;
      base = wordAt(bytes, 1);
      return true;
    }
    if (bytes.length === 0) return true;
    const at = base + (block - FIRST_BLOCK) * memory.pageBytes;
    return at >= memory.ends && memory.erase(at) && memory.write(at, bytes);
  }
  function carryOut(): readonly number[] {
    const [type = 0, request = 0, low = 0, high = 0] = setup;
    const length = (setup[6] ?? 0) + 256 * (setup[7] ?? 0);
    const block = low + 256 * high;
    setup = [];
    if (type === OUT && request === REQUEST.download) {
      state = download(block, Uint8Array.from(data)) ? STATE.downloadIdle : STATE.error;
      data = [];
      return [];
    }
    if (type === OUT && request === REQUEST.clear) {
      state = STATE.idle;
      return [];
    }
    if (request === REQUEST.status) return [state === STATE.error ? 8 : 0, 0, 0, 0, state, 0];
    if (request === REQUEST.upload)
      return block === 0
        ? bytesOfHex(memory.signature)
        : [...memory.read(base + (block - FIRST_BLOCK) * memory.pageBytes, length)];
    return [];
  }
  return {
    hear(byte) {
      if (setup.length < SETUP) setup.push(byte);
      else data.push(byte);
      const length = (setup[6] ?? 0) + 256 * (setup[7] ?? 0);
      const awaits = setup[0] === OUT ? length : 0;
      return setup.length === SETUP && data.length === awaits ? carryOut() : [];
    },
  };
}

const packet = (type: number, request: number, block: number, length: number): number[] => [
  type, request, block & 0xff, block >>> 8, 0, 0, length & 0xff, length >>> 8,
]; // prettier-ignore

/** The computer's end, for an image that begins at `start`. */
export function updateDialog(start: number, pageBytes: number): Dialog {
  const blockOf = (at: number) => FIRST_BLOCK + (at - start) / pageBytes;
  function* wentWell(busyMs: number): Talk<boolean> {
    const send = Uint8Array.from(packet(IN, REQUEST.status, 0, STATUS_BYTES));
    return (yield { send, want: STATUS_BYTES, busyMs })?.[4] === STATE.downloadIdle;
  }
  function* send(block: number, data: ArrayLike<number>, busyMs: number): Talk<boolean> {
    const bytes = [...packet(OUT, REQUEST.download, block, data.length), ...Array.from(data)];
    yield { send: Uint8Array.from(bytes), want: 0 };
    return yield* wentWell(busyMs);
  }
  return {
    *call() {
      yield { send: Uint8Array.from(packet(OUT, REQUEST.clear, 0, 0)), want: 0 };
      const asked = Uint8Array.from(packet(IN, REQUEST.upload, 0, 4));
      const said = yield { send: asked, want: 3 };
      return said && (yield* send(0, [SET_ADDRESS, ...word(start)], 0)) ? hexOf(said) : undefined;
    },
    *write(at, page) {
      return yield* send(blockOf(at), page, 8);
    },
    *read(at, length) {
      return yield { send: Uint8Array.from(packet(IN, REQUEST.upload, blockOf(at), length)), want: length };
    },
    *leave() {
      yield* send(blockOf(start), [], 0);
    },
  };
}
