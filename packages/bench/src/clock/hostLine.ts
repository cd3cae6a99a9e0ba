import { LONGEST_LINE } from '@jolly/core/text/limits';
import { misheard, Wire } from '../board/wire';

/** Speed of a host that the board has not told its own yet, in bits a second. */
const USUAL_BAUD = 115200;
/** Bytes without the end of a line are handed over when nothing more has come for so long. */
const PAUSE_NS = 0.1e9;

/** A line that the board sent, and when its last byte is there. */
interface Leaving {
  at: number;
  line: string;
}

/** The cable between host and board, and what a host makes of the bytes: lines. Times are ns of the bench's clock. */
export class HostLine {
  readonly wire: Wire;
  private text = '';
  /** Whole lines, at the time their last byte is there. */
  private readonly leaving: Leaving[] = [];
  /** The last byte the board sent was there. */
  private byteAt: number;

  /**
   * @param hostBaud the speed the host listens and talks at; the board's own when not given
   * @param isOut the cable is out: neither hears the other
   */
  constructor(
    began: number,
    private readonly hostBaud: number | undefined,
    private readonly isOut: () => boolean,
    private readonly onLine: (line: string) => void,
  ) {
    this.byteAt = began;
    this.wire = new Wire((byte, at) => this.hear(byte, at));
  }

  send(line: string, now: number): void {
    if (!this.isOut()) this.wire.hostSendsLine(line, this.speed(), now);
  }

  sendBytes(bytes: Uint8Array, now: number): void {
    if (!this.isOut()) this.wire.hostSends(bytes, this.speed(), now);
  }

  /** Hands over every line that is there by now. */
  handOverUntil(now: number): void {
    this.endAfterPause(now);
    if (this.leaving.length === 0) return;
    for (let next = this.leaving[0]; next && next.at <= now; next = this.leaving[0]) {
      this.leaving.shift();
      if (!this.isOut()) this.onLine(next.line);
    }
  }

  private speed(): number {
    return this.hostBaud ?? (this.wire.baud() || USUAL_BAUD);
  }

  private hear(byte: number, at: number): void {
    const letter = String.fromCharCode(this.wire.understands(this.speed()) ? byte : misheard(byte));
    this.endAfterPause(at);
    this.byteAt = at;
    if (letter !== '\n') this.text += letter;
    if (letter === '\n' || this.text.length >= LONGEST_LINE) this.end(at);
  }

  /** A line without an end, as one at another speed is, is handed over as it is. */
  private endAfterPause(now: number): void {
    if (this.text !== '' && now - this.byteAt > PAUSE_NS) this.end(this.byteAt + PAUSE_NS);
  }

  private end(at: number): void {
    this.leaving.push({ at, line: this.text });
    this.text = '';
  }
}
