import { crc32Of } from '@jolly/core/bytes/crc32';
import type { FlashMemory } from './flashMemory';
import { bytesOfHex, type Dialog, hexOf, type Heard, type Listener, type Talk, word, wordAt } from './talk';

/*
 * Frames of the bootloader over USB serial: mark, what, length (two bytes, low first), content, CRC-32 of all before it.
 * An answer has the other mark, and its first byte of content says how it went.
 */
const ASKS = 0xa7;
const ANSWERS = 0xa8;
const HEAD = 4;
const TAIL = 4;
const WHAT = { call: 0x11, erase: 0x12, write: 0x13, read: 0x14, leave: 0x15 };
const WENT = { well: 0x00, damaged: 0x01, refused: 0x02 };
const TRIES = 4;
const WAIT_MS = 250;

function frame(mark: number, what: number, content: readonly number[]): number[] {
  const head = [mark, what, content.length & 0xff, content.length >>> 8, ...content];
  return [...head, ...word(crc32Of(Uint8Array.from(head)))];
}

/** The bootloader's end of the line. A damaged frame is asked for again; noise between frames is passed over. */
export function serialListener(memory: FlashMemory): Listener {
  let heard: number[] = [];
  const answer = (what: number, went: number, content: readonly number[] = []) =>
    frame(ANSWERS, what, [went, ...content]);
  const DO: Readonly<Record<number, (content: readonly number[]) => readonly number[] | undefined>> = {
    [WHAT.call]: () => bytesOfHex(memory.signature),
    [WHAT.erase]: (content) => (behind(content) && memory.erase(wordAt(content, 0)) ? [] : undefined),
    [WHAT.write]: (content) =>
      behind(content) && memory.write(wordAt(content, 0), Uint8Array.from(content.slice(4))) ? [] : undefined,
    [WHAT.read]: (content) => [...memory.read(wordAt(content, 0), wordAt(content, 4) & 0xffff)],
    [WHAT.leave]: () => [],
  };
  /** It never writes over itself. */
  const behind = (content: readonly number[]) => wordAt(content, 0) >= memory.ends;

  return {
    hear(byte) {
      if (heard.length === 0 && byte !== ASKS) return [];
      heard.push(byte);
      if (heard.length < HEAD) return [];
      const length = (heard[2] ?? 0) + 256 * (heard[3] ?? 0);
      if (heard.length < HEAD + length + TAIL) return [];
      const [frameBytes, what] = [heard, heard[1] ?? 0];
      heard = [];
      const sum = crc32Of(Uint8Array.from(frameBytes.slice(0, HEAD + length)));
      if (sum !== wordAt(frameBytes, HEAD + length)) return answer(what, WENT.damaged);
      const said = DO[what]?.(frameBytes.slice(HEAD, HEAD + length));
      return said ? answer(what, WENT.well, said) : answer(what, WENT.refused);
    },
  };
}

/** The tool's end of it. What gets no answer, or a damaged one, is said again a few times. */
export function serialDialog(): Dialog {
  function* ask(what: number, content: readonly number[], wants: number, busyMs = 0): Talk<Heard> {
    const send = Uint8Array.from(frame(ASKS, what, content));
    for (let attempt = 0; attempt < TRIES; attempt += 1) {
      const heard = yield { send, want: HEAD + 1 + wants + TAIL, waitMs: WAIT_MS, busyMs };
      const content = heard && understood(heard, what);
      if (content) return content;
      if (heard && heard[HEAD] === WENT.refused) return undefined;
    }
    return undefined;
  }
  return {
    *call() {
      const said = yield* ask(WHAT.call, [], 4);
      return said && hexOf(said);
    },
    *erase(at) {
      return (yield* ask(WHAT.erase, word(at), 0, 6)) !== undefined;
    },
    *write(at, page) {
      return (yield* ask(WHAT.write, [...word(at), ...page], 0, 3)) !== undefined;
    },
    *read(at, length) {
      return yield* ask(WHAT.read, [...word(at), ...word(length)], length);
    },
    *leave() {
      yield* ask(WHAT.leave, [], 0);
    },
  };
}

function understood(heard: Uint8Array, what: number): Heard {
  const length = (heard[2] ?? 0) + 256 * (heard[3] ?? 0);
  const whole = heard.length >= HEAD + length + TAIL && heard[0] === ANSWERS && heard[1] === what;
  if (!whole || crc32Of(heard.slice(0, HEAD + length)) !== wordAt(heard, HEAD + length)) return undefined;
  return heard[HEAD] === WENT.well ? heard.slice(HEAD + 1, HEAD + length) : undefined;
}
