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

/** How many segments a board takes ahead, and motors it steps. */
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

/** The part of the chip that plays segments by itself. Times are ns of the bench's clock. */
export interface RunPlayer {
  /** Takes a segment as it lies in the firmware's memory. */
  push(memory: DataView, at: number, count: number, lengthNs: number, now: number): void;
  room(now: number): number;
  halt(now: number): void;
  /** Nothing plays or waits. */
  over(now: number): boolean;
  /** When the chip is to be called next: a segment ends, or the watched pin was met; Infinity when neither. */
  nextCall(): number;
  called(): void;
  /** Pulses up less pulses down of a motor, until now. */
  made(motor: number, now: number): number;
  /** Lets everything up to now happen. */
  settle(now: number): void;
  watch(met: (() => boolean) | undefined, now: number): void;
  watchMet(): boolean;
  /** Pulses given since the power came on. */
  pulses(): number;
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

/**
 * @param pulseNs the time the chip needs for one pulse; a segment with more than fit into it takes longer
 */
export function runPlayer(driven: Driven, pulseNs: number): RunPlayer {
  const places = Array.from({ length: AHEAD }, (): Segment => ({
    from: 0,
    to: 0,
    used: 0,
    runs: Array.from({ length: MOTORS }, emptyRun),
  }));
  const stretch = Array.from({ length: MOTORS }, (): Pulses => ({
    motor: 0,
    high: false,
    count: 0,
    perSecond: 0,
  }));
  const made = new Int32Array(MOTORS);
  const madeBefore = new Int32Array(MOTORS);
  let oldest = 0;
  let waiting = 0;
  let watched: (() => boolean) | undefined;
  let met = false;
  /** Fields, as in `powerOn`. */
  const time = { settled: 0, metAt: Infinity, pulses: 0 };

  const placeOf = (index: number): Segment => {
    const place = places[(oldest + index) % AHEAD];
    if (!place) throw new Error('a board has places for its segments');
    return place;
  };

  /** Gives the pulses of a segment that come by `until`. */
  function give(segment: Segment, until: number): void {
    let entries = 0;
    const whole = until >= segment.to;
    for (let index = 0; index < segment.used; index += 1) {
      const run = segment.runs[index];
      const entry = stretch[entries];
      if (!run || !entry) continue;
      const by = whole ? run.count : pulsesBy(run, until - segment.from);
      const count = by - run.given;
      if (count <= 0) continue;
      run.given = by;
      time.pulses += count;
      made[run.motor] = (made[run.motor] ?? 0) + (run.high ? count : -count);
      entry.motor = run.motor;
      entry.high = run.high;
      entry.count = count;
      entry.perSecond = 1e9 / Math.max(1, run.intervalNs + run.changeNs * (by - 1));
      entries += 1;
    }
    if (entries > 0) driven.move(stretch, entries, Math.max(1e-9, (until - time.settled) / 1e9), until / 1e9);
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

  function mark(segment: Segment): void {
    for (const run of segment.runs) run.givenBefore = run.given;
    madeBefore.set(made);
    driven.mark();
  }

  function rewind(segment: Segment): void {
    for (const run of segment.runs) run.given = run.givenBefore;
    made.set(madeBefore);
    driven.rewind();
  }

  /**
   * Gives what comes by `until`, but stops at the pulse at which the watched pin is met. Looked at once at the end:
   * what is not met there was not met within two milliseconds; only what is met is gone through pulse by pulse.
   */
  function giveWatched(segment: Segment, until: number, isMet: () => boolean): boolean {
    mark(segment);
    give(segment, until);
    if (!isMet()) return false;
    rewind(segment);
    for (let at = time.settled; at <= until; at = nextPulse(segment)) {
      give(segment, at);
      time.settled = Math.max(time.settled, at);
      if (isMet()) return true;
    }
    return false;
  }

  /** Lets everything up to now happen; with `whole`, a segment that still plays is left until it ends or is looked at. */
  function settle(now: number, whole = false): void {
    while (now > time.settled && waiting > 0) {
      const segment = placeOf(0);
      const until = Math.min(now, segment.to);
      if (watched && !met) {
        if (giveWatched(segment, until, watched)) {
          met = true;
          time.metAt = time.settled;
          waiting = 0;
          break;
        }
      } else if (whole && until < segment.to) return;
      else give(segment, until);
      time.settled = until;
      if (until < segment.to) return;
      oldest = (oldest + 1) % AHEAD;
      waiting -= 1;
    }
    if (now > time.settled) time.settled = now;
  }

  return {
    push(memory, at, count, lengthNs, now) {
      settle(now, true);
      if (waiting === AHEAD || met) return;
      const from = waiting > 0 ? placeOf(waiting - 1).to : now;
      const place = placeOf(waiting);
      place.used = Math.min(count, MOTORS);
      let all = 0;
      for (let index = 0; index < place.used; index += 1) {
        const run = place.runs[index];
        if (!run) continue;
        readRun(run, memory, at + index * RUN_BYTES);
        all += run.count;
      }
      place.from = from;
      place.to = from + Math.max(lengthNs, all * pulseNs);
      waiting += 1;
    },
    room(now) {
      settle(now, true);
      return met ? 0 : AHEAD - waiting;
    },
    halt(now) {
      settle(now);
      waiting = 0;
    },
    over(now) {
      settle(now, true);
      return waiting === 0;
    },
    nextCall: () => (time.metAt < Infinity ? time.metAt : waiting > 0 ? placeOf(0).to : Infinity),
    called: () => void (time.metAt = Infinity),
    made(motor, now) {
      settle(now);
      return made[motor] ?? 0;
    },
    settle: (now) => settle(now),
    watch(wanted, now) {
      settle(now);
      watched = wanted;
      met = false;
      time.metAt = Infinity;
    },
    watchMet: () => met,
    pulses: () => time.pulses,
  };
}
