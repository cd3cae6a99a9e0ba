/** Start bit, eight bits, stop bit. */
const BITS_PER_BYTE = 10;
/** What the transmitter takes before it has sent it. */
const TRANSMITTER = 64;
/** The receiver calls when a line ends, when what a host sent ends, and when this many bytes lie there. */
const RECEIVER = 32;
const LINE_END = 10;
/** What waits to be read at most: a power of two. */
const RECEIVED = 4096;

/** The board's serial line, with the time that every byte takes on it. Times are ns of the bench's clock. */
export interface Wire {
  open(baud: number): void;
  baud(): number;
  /** A host sends bytes; `speed` is the one it sends at. */
  hostSends(bytes: Uint8Array, speed: number, now: number): void;
  /** When the receiver calls next; Infinity when nothing is on its way. */
  nextCall(): number;
  /** Takes what has arrived by now into the receiver. */
  arrive(now: number): void;
  /** Takes what was received into a place of the chip's memory, as much as there is room for; how many bytes. */
  read(memory: Uint8Array, to: number, room: number): number;
  room(now: number): number;
  write(byte: number, now: number): void;
}

/** Bytes that a host sent in one go, on their way. */
interface Sending {
  bytes: Uint8Array;
  from: number;
  byteNs: number;
  /** How many have arrived, and after how many the receiver calls. */
  arrived: number;
  calls: number;
}

/** @param heard what the host hears: a byte, and when the last bit of it was there */
export function wire(heard: (byte: number, at: number) => void): Wire {
  let speed = 0;
  /** Fields, as in `powerOn`. */
  const time = { outAt: 0, freeAt: 0, next: Infinity };
  const sent: Sending[] = [];
  const received = new Uint8Array(RECEIVED);
  let first = 0;
  let held = 0;
  const byteNs = (baud: number) => (BITS_PER_BYTE * 1e9) / baud;
  let sendsNs = byteNs(115200);

  /** After how many bytes the receiver calls the next time. */
  function callOf(sending: Sending): void {
    const end = sending.bytes.indexOf(LINE_END, sending.arrived);
    const whole = end < 0 ? sending.bytes.length : end + 1;
    sending.calls = Math.min(whole, sending.arrived + RECEIVER);
    time.next = sending.from + sending.calls * sending.byteNs;
  }

  /** A receiver that nobody empties loses what comes. */
  function receive(bytes: Uint8Array, from: number, to: number): void {
    const taken = Math.min(to - from, RECEIVED - held);
    for (let index = 0; index < taken; index += 1)
      received[(first + held + index) & (RECEIVED - 1)] = bytes[from + index] ?? 0;
    held += taken;
  }

  return {
    open(baud) {
      speed = baud >>> 0;
      sendsNs = byteNs(speed || 115200);
    },
    baud: () => speed,
    hostSends(bytes, at, now) {
      const from = Math.max(now, time.freeAt);
      const sending: Sending = { bytes, from, byteNs: byteNs(at), arrived: 0, calls: 0 };
      time.freeAt = from + bytes.length * sending.byteNs;
      sent.push(sending);
      if (sent.length === 1) callOf(sending);
    },
    nextCall: () => time.next,
    arrive(now) {
      for (let sending = sent[0]; sending && time.next <= now; sending = sent[0]) {
        receive(sending.bytes, sending.arrived, sending.calls);
        sending.arrived = sending.calls;
        time.next = Infinity;
        if (sending.arrived === sending.bytes.length) sent.shift();
        if (sent[0]) callOf(sent[0]);
      }
    },
    read(memory, to, room) {
      const count = Math.min(held, room, memory.length - to);
      for (let index = 0; index < count; index += 1) {
        memory[to + index] = received[first] ?? 0;
        first = (first + 1) & (RECEIVED - 1);
      }
      held -= count;
      return count;
    },
    room(now) {
      if (speed === 0) return 0;
      return Math.max(0, TRANSMITTER - Math.ceil(Math.max(0, time.outAt - now) / sendsNs));
    },
    write(byte, now) {
      time.outAt = Math.max(time.outAt, now) + sendsNs;
      heard(byte, time.outAt);
    },
  };
}
