import type { FlashMemory } from './flashMemory';
import { bytesOfHex, type Dialog, hexOf, type Listener, type Talk } from './talk';

/*
 * Six wires: with every byte that goes to the chip one comes back. Words have five bytes: what, address (three, high first),
 * value. The chip says the inverse of what it was asked for in the second byte, and its value in the last.
 */
const WORD = 5;
const WHAT = {
  wake: 0xc5,
  signature: 0x1a,
  erase: 0x2e,
  fill: 0x36,
  write: 0x3d,
  read: 0x47,
  lock: 0x58,
};
const WOKEN = 0x5c;

/** The chip's end of the six wires, held in reset. Until it is woken it says nothing but zeros. */
export function wireListener(memory: FlashMemory): Listener {
  let heard: number[] = [];
  let awake = false;
  let refused = 0;
  const page = new Map<number, number>();
  const signature = bytesOfHex(memory.signature);

  function value(what: number, at: number, given: number): number {
    switch (what) {
      case WHAT.wake:
        awake = given === WOKEN;
        return awake ? WOKEN : 0;
      case WHAT.signature:
        return signature[at] ?? 0;
      case WHAT.erase:
        refused = memory.erase(at) ? 0 : 1;
        return refused;
      case WHAT.fill:
        page.set(at, given);
        return 0;
      case WHAT.write:
        refused = flush(at) ? 0 : 1;
        return refused;
      case WHAT.read:
        return memory.read(at, 1)[0] ?? 0xff;
      case WHAT.lock:
        memory.setLocked(given !== 0);
        return 0;
      default:
        return 0;
    }
  }
  function flush(at: number): boolean {
    const bytes = Uint8Array.from({ length: page.size }, (_, index) => page.get(index) ?? 0xff);
    page.clear();
    return memory.write(at, bytes);
  }
  return {
    hear(byte) {
      heard.push(byte);
      const [what = 0, high = 0, middle = 0, low = 0] = heard;
      if (heard.length < WORD) return [heard.length === 2 && (awake || what === WHAT.wake) ? ~what & 0xff : 0];
      heard = [];
      if (!awake && what !== WHAT.wake) return [0];
      return [value(what, (high << 16) | (middle << 8) | low, byte)];
    },
  };
} // prettier-ignore

const spoken = (what: number, at: number, value: number): number[] => [
  what,
  (at >>> 16) & 0xff,
  (at >>> 8) & 0xff,
  at & 0xff,
  value,
];

/** The programmer's end. Without the inverse in the second byte nobody is at the other end, or the wires are exchanged. */
export function wireDialog(): Dialog {
  function* say(words: readonly number[], busyMs = 0): Talk<number[] | undefined> {
    const heard = yield { send: Uint8Array.from(words), want: words.length, busyMs };
    if (!heard) return undefined;
    const values: number[] = [];
    for (let at = 0; at < words.length; at += WORD) {
      if (heard[at + 1] !== (~(words[at] ?? 0) & 0xff)) return undefined;
      values.push(heard[at + 4] ?? 0);
    }
    return values;
  }
  return {
    *call() {
      if (!(yield* say(spoken(WHAT.wake, 0, WOKEN)))) return undefined;
      const said = yield* say([0, 1, 2, 3].flatMap((at) => spoken(WHAT.signature, at, 0)));
      // Eight-bit chips have three bytes; nothing follows them.
      return said && hexOf(said[3] === 0 ? said.slice(0, 3) : said);
    },
    *erase(at) {
      return (yield* say(spoken(WHAT.erase, at, 0), 5))?.[0] === 0;
    },
    *write(at, page) {
      const filled = yield* say([...page].flatMap((byte, index) => spoken(WHAT.fill, index, byte)));
      return filled !== undefined && (yield* say(spoken(WHAT.write, at, 0), 5))?.[0] === 0;
    },
    *read(at, length) {
      const said = yield* say(Array.from({ length }, (_, index) => spoken(WHAT.read, at + index, 0)).flat());
      return said && Uint8Array.from(said);
    },
    *setLocked(locked) {
      return (yield* say(spoken(WHAT.lock, 0, locked ? 1 : 0), 9)) !== undefined;
    },
    *leave() {
      yield* say(spoken(WHAT.wake, 0, 0));
    },
  };
}
