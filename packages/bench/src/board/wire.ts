/** Start bit, eight bits, stop bit. */
const BITS_PER_BYTE = 10;
/** What the transmitter takes before it has sent it. */
const TRANSMITTER = 64;
/** The receiver calls when a line ends, when what a host sent ends, and when this many bytes lie there. */
const RECEIVER = 32;
const LINE_END = 10;
/** What waits to be read at most. */
const RECEIVED = 4096;
/** What a host sends before the board has said at which speed it listens. */
const USUAL_BAUD = 115200;

const LETTERS = new TextEncoder();
/** Of UTF-8, for a letter as JavaScript counts them. */
const MOST_BYTES_A_LETTER = 3;

const byteNs = (baud: number) => (BITS_PER_BYTE * 1e9) / baud;

/** A byte that is sent at one speed and heard at another is another byte. */
export const misheard = (byte: number): number => (byte * 37 + 129) & 0xff;

/** Bytes that a host sent in one go, on their way. */
interface Sending {
  /** How many, and how many of them have arrived. */
  count: number;
  arrived: number;
  /** When the first bit left, and what a byte takes. */
  from: number;
  byteNs: number;
}

/** Bytes in the order they came, put in at one end and taken out at the other; grows as it must. */
class Queue {
  private bytes = new Uint8Array(256);
  private first = 0;
  private end = 0;

  put(byte: number): void {
    if (this.end === this.bytes.length) this.makeRoom();
    this.bytes[this.end] = byte;
    this.end += 1;
  }

  /** How many bytes from a place on up to one of this kind and with it, at most so many. */
  upTo(wanted: number, from: number, most: number): number {
    const { bytes } = this;
    const begin = this.first + from;
    for (let count = 1; count <= most; count += 1) if (bytes[begin + count - 1] === wanted) return count;
    return most;
  }

  /** Takes the oldest out, into a place of a memory. */
  take(memory: Uint8Array, to: number, count: number): void {
    const { bytes, first } = this;
    for (let index = 0; index < count; index += 1) memory[to + index] = bytes[first + index] ?? 0;
    this.first += count;
    if (this.first === this.end) this.first = this.end = 0;
  }

  /** Takes bytes out from the middle. */
  lose(from: number, count: number): void {
    const at = this.first + from;
    this.bytes.copyWithin(at, at + count, this.end);
    this.end -= count;
  }

  private makeRoom(): void {
    const held = this.end - this.first;
    const from = this.bytes;
    if (2 * held > from.length) this.bytes = new Uint8Array(2 * from.length);
    this.bytes.set(from.subarray(this.first, this.end));
    this.first = 0;
    this.end = held;
  }
}

/** The board's serial line, with the time that every byte takes on it. Times are ns of the bench's clock. */
export class Wire {
  private speed = 0;
  private sendsNs = byteNs(USUAL_BAUD);
  /** When the board's transmitter is through, and when the host's is. */
  private outAt = 0;
  private freeAt = 0;
  private next = Infinity;
  private readonly sent: Sending[] = [];
  /** What was received and waits to be read, and behind it what is on its way. */
  private readonly bytes = new Queue();
  private held = 0;
  /** The letters of a line that is sent. */
  private typed = new Uint8Array(256);
  /** How many more bytes will have come when the receiver calls. */
  private calls = 0;

  /** @param heard what the host hears: a byte, and when the last bit of it was there */
  constructor(private readonly heard: (byte: number, at: number) => void) {}

  open(baud: number): void {
    this.speed = baud >>> 0;
    this.sendsNs = byteNs(this.speed || USUAL_BAUD);
  }

  baud(): number {
    return this.speed;
  }

  /** Whether a host at this speed and the board understand each other. A port that is not open is not spoken to wrongly. */
  understands(speed: number): boolean {
    return speed === this.speed || this.speed === 0;
  }

  /** A host sends bytes; `speed` is the one it sends at. */
  hostSends(bytes: Uint8Array, speed: number, now: number): void {
    this.hostSendsFirst(bytes, bytes.length, speed, now);
  }

  /** A host sends a line and its end, letters beyond ASCII as UTF-8, as a terminal does. */
  hostSendsLine(line: string, speed: number, now: number): void {
    const most = MOST_BYTES_A_LETTER * line.length + 1;
    if (this.typed.length < most) this.typed = new Uint8Array(most);
    const { typed } = this;
    // At once: letter by letter would look through how the text was put together, at every letter.
    const { written } = LETTERS.encodeInto(line, typed);
    typed[written] = LINE_END;
    this.hostSendsFirst(typed, written + 1, speed, now);
  }

  private hostSendsFirst(bytes: Uint8Array, count: number, speed: number, now: number): void {
    const understood = this.understands(speed);
    for (let index = 0; index < count; index += 1) {
      const byte = bytes[index] ?? 0;
      this.bytes.put(understood ? byte : misheard(byte));
    }
    this.sends(count, speed, now);
  }

  private sends(count: number, speed: number, now: number): void {
    const from = Math.max(now, this.freeAt);
    const sending: Sending = { count, arrived: 0, from, byteNs: byteNs(speed) };
    this.freeAt = from + count * sending.byteNs;
    this.sent.push(sending);
    if (this.sent.length === 1) this.callFor(sending);
  }

  /** When the receiver calls next; Infinity when nothing is on its way. */
  nextCall(): number {
    return this.next;
  }

  private callFor(sending: Sending): void {
    this.calls = this.bytes.upTo(LINE_END, this.held, Math.min(RECEIVER, sending.count - sending.arrived));
    this.next = sending.from + (sending.arrived + this.calls) * sending.byteNs;
  }

  /** Takes what has arrived by now into the receiver. */
  arrive(now: number): void {
    for (let sending = this.sent[0]; sending && this.next <= now; sending = this.sent[0]) {
      this.receive(this.calls);
      sending.arrived += this.calls;
      this.next = Infinity;
      if (sending.arrived === sending.count) this.sent.shift();
      if (this.sent[0]) this.callFor(this.sent[0]);
    }
  }

  /** A receiver that nobody empties loses what comes. */
  private receive(count: number): void {
    const taken = Math.min(count, RECEIVED - this.held);
    this.held += taken;
    if (taken < count) this.bytes.lose(this.held, count - taken);
  }

  /** Takes what was received into a place of the chip's memory, as much as there is room for; how many bytes. */
  read(memory: Uint8Array, to: number, room: number): number {
    const count = Math.min(this.held, room, memory.length - to);
    if (count === 0) return 0;
    this.bytes.take(memory, to, count);
    this.held -= count;
    return count;
  }

  /** How many bytes the transmitter would take. */
  room(now: number): number {
    if (this.speed === 0) return 0;
    return Math.max(0, TRANSMITTER - Math.ceil(Math.max(0, this.outAt - now) / this.sendsNs));
  }

  write(byte: number, now: number): void {
    this.outAt = Math.max(this.outAt, now) + this.sendsNs;
    this.heard(byte, this.outAt);
  }
}
