/** Pulses of one motor in a stretch of time: how many, and how fast the last of them came. */
export interface Pulses {
  motor: number;
  /** Of the direction line. */
  high: boolean;
  count: number;
  perSecond: number;
}

/** What moves when pulses come, and what a watched pin then reads. */
export interface Driven {
  /** All pulses of a stretch of time, one entry a motor: the first `entries` of the list; `seconds` is its length, `at`
   * its end on the clock. */
  move(pulses: readonly Pulses[], entries: number, seconds: number, at: number): void;
  /** Keeps the place of everything that pulses move, for `rewind`. */
  mark(): void;
  rewind(): void;
}

/** A row of pulses of one motor within a segment; times in ns from the segment's begin. */
interface Run {
  motor: number;
  high: boolean;
  startNs: number;
  intervalNs: number;
  changeNs: number;
  count: number;
  /** Pulses given already, and as they were when a stretch that may be gone through again began. */
  given: number;
  givenBefore: number;
}

/** How many segments a board takes ahead, a power of two; and motors it steps. */
const AHEAD = 4;
const MOTORS = 8;
/** Bytes of one run in the firmware's memory, see hw.h. */
const RUN_BYTES = 16;

/** One segment's place; places are used again and again, so that playing makes no garbage. */
interface Segment {
  from: number;
  to: number;
  used: number;
  runs: Run[];
}

const emptyRun = (): Run => ({
  motor: 0,
  high: false,
  startNs: 0,
  intervalNs: 1,
  changeNs: 0,
  count: 0,
  given: 0,
  givenBefore: 0,
});

/** The n-th pulse of a run, from 0, in ns after the segment's begin. */
const pulseAt = (run: Run, n: number) => run.startNs + n * run.intervalNs + (run.changeNs * n * (n - 1)) / 2;

/** How many pulses of a run have been given by a time. */
function pulsesBy(run: Run, after: number): number {
  let count = run.given;
  while (count < run.count && pulseAt(run, count) <= after) count += 1;
  return count;
}

function readRun(run: Run, memory: DataView, at: number): void {
  run.startNs = memory.getUint32(at, true);
  run.intervalNs = memory.getUint32(at + 4, true);
  run.changeNs = memory.getInt32(at + 8, true);
  run.count = memory.getUint16(at + 12, true);
  run.motor = memory.getUint8(at + 14) % MOTORS;
  run.high = memory.getUint8(at + 15) !== 0;
  run.given = 0;
}

/** When the next pulse of a segment comes. */
function nextPulse(segment: Segment): number {
  let next = Infinity;
  for (let index = 0; index < segment.used; index += 1) {
    const run = segment.runs[index];
    if (run && run.given < run.count) next = Math.min(next, segment.from + pulseAt(run, run.given));
  }
  return next;
}

/**
 * The part of the chip that plays segments by itself. Times are ns of the bench's clock. A class, as everything that a
 * segment goes through: what closures make is looked up anew in every bench but a process' first.
 */
export class RunPlayer {
  private readonly places = Array.from({ length: AHEAD }, (): Segment => ({
    from: 0,
    to: 0,
    used: 0,
    runs: Array.from({ length: MOTORS }, emptyRun),
  }));
  private readonly stretch = Array.from({ length: MOTORS }, (): Pulses => ({
    motor: 0,
    high: false,
    count: 0,
    perSecond: 0,
  }));
  private readonly counts = new Int32Array(MOTORS);
  private readonly countsBefore = new Int32Array(MOTORS);
  private oldest = 0;
  private waiting = 0;
  private watched: (() => boolean) | undefined;
  private met = false;
  private metAt = Infinity;
  private settled = 0;
  private given = 0;

  /** @param pulseNs the time the chip needs for one pulse; a segment with more than fit into it takes longer */
  constructor(
    private readonly driven: Driven,
    private readonly pulseNs: number,
  ) {}

  /** Takes a segment as it lies in the firmware's memory. */
  push(memory: DataView, at: number, count: number, lengthNs: number, now: number): void {
    this.settleTo(now, true);
    if (this.waiting === AHEAD || this.met) return;
    const from = this.waiting > 0 ? this.placeOf(this.waiting - 1).to : now;
    const place = this.placeOf(this.waiting);
    place.used = Math.min(count, MOTORS);
    let all = 0;
    for (let index = 0; index < place.used; index += 1) {
      const run = place.runs[index];
      if (!run) continue;
      readRun(run, memory, at + index * RUN_BYTES);
      all += run.count;
    }
    place.from = from;
    place.to = from + Math.max(lengthNs, all * this.pulseNs);
    this.waiting += 1;
  }

  room(now: number): number {
    this.settleTo(now, true);
    return this.met ? 0 : AHEAD - this.waiting;
  }

  halt(now: number): void {
    this.settle(now);
    this.waiting = 0;
  }

  /** Nothing plays or waits. */
  over(now: number): boolean {
    this.settleTo(now, true);
    return this.waiting === 0;
  }

  /** When the chip is to be called next: a segment ends, or the watched pin was met; Infinity when neither. */
  nextCall(): number {
    if (this.metAt < Infinity) return this.metAt;
    return this.waiting > 0 ? this.placeOf(0).to : Infinity;
  }

  called(): void {
    this.metAt = Infinity;
  }

  /** Pulses up less pulses down of a motor, until now. */
  made(motor: number, now: number): number {
    this.settle(now);
    return this.counts[motor] ?? 0;
  }

  /** Lets everything up to now happen. */
  settle(now: number): void {
    this.settleTo(now, false);
  }

  watch(wanted: (() => boolean) | undefined, now: number): void {
    this.settle(now);
    this.watched = wanted;
    this.met = false;
    this.metAt = Infinity;
  }

  watchMet(): boolean {
    return this.met;
  }

  /** Pulses given since the power came on. */
  pulses(): number {
    return this.given;
  }

  private placeOf(index: number): Segment {
    const place = this.places[(this.oldest + index) & (AHEAD - 1)];
    if (!place) throw new Error('a board has places for its segments');
    return place;
  }

  /** With `whole`, a segment that still plays is left until it ends or is looked at. */
  private settleTo(now: number, whole: boolean): void {
    while (now > this.settled && this.waiting > 0) {
      const segment = this.placeOf(0);
      const until = Math.min(now, segment.to);
      if (this.watched && !this.met) {
        if (this.giveWatched(segment, until, this.watched)) {
          this.met = true;
          this.metAt = this.settled;
          this.waiting = 0;
          break;
        }
      } else if (whole && until < segment.to) return;
      else this.give(segment, until);
      this.settled = until;
      if (until < segment.to) return;
      this.oldest = (this.oldest + 1) & (AHEAD - 1);
      this.waiting -= 1;
    }
    if (now > this.settled) this.settled = now;
  }

  /** Gives the pulses of a segment that come by `until`. */
  private give(segment: Segment, until: number): void {
    let entries = 0;
    const whole = until >= segment.to;
    for (let index = 0; index < segment.used; index += 1) {
      const run = segment.runs[index];
      const entry = this.stretch[entries];
      if (!run || !entry) continue;
      const by = whole ? run.count : pulsesBy(run, until - segment.from);
      const count = by - run.given;
      if (count <= 0) continue;
      run.given = by;
      this.given += count;
      this.counts[run.motor] = (this.counts[run.motor] ?? 0) + (run.high ? count : -count);
      entry.motor = run.motor;
      entry.high = run.high;
      entry.count = count;
      entry.perSecond = 1e9 / Math.max(1, run.intervalNs + run.changeNs * (by - 1));
      entries += 1;
    }
    if (entries === 0) return;
    this.driven.move(this.stretch, entries, Math.max(1e-9, (until - this.settled) / 1e9), until / 1e9);
  }

  /**
   * Gives what comes by `until`, but stops at the pulse at which the watched pin is met. Looked at once at the end:
   * what is not met there was not met within two milliseconds; only what is met is gone through pulse by pulse.
   */
  private giveWatched(segment: Segment, until: number, isMet: () => boolean): boolean {
    this.mark(segment);
    this.give(segment, until);
    if (!isMet()) return false;
    this.rewind(segment);
    for (let at = this.settled; at <= until; at = nextPulse(segment)) {
      this.give(segment, at);
      this.settled = Math.max(this.settled, at);
      if (isMet()) return true;
    }
    return false;
  }

  private mark(segment: Segment): void {
    for (const run of segment.runs) run.givenBefore = run.given;
    this.countsBefore.set(this.counts);
    this.driven.mark();
  }

  private rewind(segment: Segment): void {
    for (const run of segment.runs) run.given = run.givenBefore;
    this.counts.set(this.countsBefore);
    this.driven.rewind();
  }
}
