import type { FlashMemory } from './flashMemory';
import { type Dialog, hexOf, type Listener, type Talk, word, wordAt } from './talk';

/*
 * Three wires: one data line both ways. A turn is a byte that says which register and whether it is read, four bytes of
 * value, and a byte with the parity of all; the chip answers with five: its value and a byte of how it went.
 */
const TURN = 6;
const ANSWER = 5;
const READS = 0x80;
const REGISTER = { signature: 1, address: 2, data: 3, command: 4 };
const COMMAND = { erase: 1, write: 2, unlock: 3, lock: 4, run: 5 };
const WELL = 0x69;
const REFUSED = 0x96;

const parity = (bytes: readonly number[]): number => bytes.reduce((sum, byte) => sum ^ byte, 0x5a);

/** The chip's end of the three wires. A turn with a wrong parity is not answered. */
export function probeListener(memory: FlashMemory): Listener {
  let heard: number[] = [];
  let address = 0;
  let page: number[] = [];

  function command(which: number): boolean {
    switch (which) {
      case COMMAND.erase:
        return memory.erase(address);
      case COMMAND.write: {
        const bytes = Uint8Array.from(page);
        page = [];
        return memory.write(address, bytes);
      }
      case COMMAND.unlock:
      case COMMAND.lock:
        memory.setLocked(which === COMMAND.lock);
        return true;
      default:
        return which === COMMAND.run;
    }
  }
  function read(register: number): number {
    if (register === REGISTER.signature) return parseInt(memory.signature, 16);
    if (register !== REGISTER.data) return address;
    const value = wordAt(memory.read(address, 4), 0);
    address += 4;
    return value;
  }
  function write(register: number, value: number): boolean {
    if (register === REGISTER.command) return command(value);
    if (register === REGISTER.address) address = value;
    else if (register === REGISTER.data) page.push(...word(value));
    else return false;
    return true;
  }
  return {
    hear(byte) {
      heard.push(byte);
      if (heard.length < TURN) return [];
      const turn = heard;
      heard = [];
      if (parity(turn.slice(0, TURN - 1)) !== byte) return [];
      const [head = 0] = turn;
      if (head & READS) return [...word(read(head & 0x7f)), WELL];
      return [0, 0, 0, 0, write(head, wordAt(turn, 1)) ? WELL : REFUSED];
    },
  };
}

function turn(head: number, value = 0): number[] {
  const bytes = [head, ...word(value)];
  return [...bytes, parity(bytes)];
}

/** The debug probe's end. */
export function probeDialog(): Dialog {
  function* say(turns: readonly number[][], busyMs = 0): Talk<{ values: number[]; well: boolean } | undefined> {
    const heard = yield { send: Uint8Array.from(turns.flat()), want: ANSWER * turns.length, busyMs };
    if (heard?.length !== ANSWER * turns.length) return undefined;
    const values = turns.map((_, index) => wordAt(heard, ANSWER * index));
    const well = turns.every((_, index) => heard[ANSWER * index + 4] === WELL);
    return { values, well };
  }
  const set = (register: number, value: number) => turn(register, value);
  return {
    *call() {
      const said = yield* say([turn(READS | REGISTER.signature)]);
      return said && hexOf([...word(said.values[0] ?? 0)].reverse());
    },
    *erase(at) {
      return (yield* say([set(REGISTER.address, at), set(REGISTER.command, COMMAND.erase)], 8))?.well === true;
    },
    *write(at, page) {
      const words = Array.from({ length: Math.ceil(page.length / 4) }, (_, index) => set(REGISTER.data, wordAt(padded(page), 4 * index)));
      const turns = [set(REGISTER.address, at), ...words, set(REGISTER.command, COMMAND.write)];
      return (yield* say(turns, 4))?.well === true;
    },
    *read(at, length) {
      const count = Math.ceil(length / 4);
      const said = yield* say([set(REGISTER.address, at), ...Array.from({ length: count }, () => turn(READS | REGISTER.data))]);
      return said && Uint8Array.from(said.values.slice(1).flatMap(word)).slice(0, length);
    },
    *setLocked(locked) {
      return (yield* say([set(REGISTER.command, locked ? COMMAND.lock : COMMAND.unlock)], 20))?.well === true;
    },
    *leave() {
      yield* say([set(REGISTER.command, COMMAND.run)]);
    },
  };
} // prettier-ignore

/** A page filled up to whole words, as erased flash is. */
function padded(page: Uint8Array): Uint8Array {
  const whole = new Uint8Array(Math.ceil(page.length / 4) * 4).fill(0xff);
  whole.set(page);
  return whole;
}
