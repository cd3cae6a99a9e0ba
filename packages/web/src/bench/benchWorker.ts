import {
  type Finger,
  type Beginning,
  type BenchLook,
  type BoardState,
  cardBlocks,
  linkAround,
  type Pace,
  type PrintCard,
  powerOnRecorded,
  type RecordedBench,
  type Recording,
  type Woken,
} from '@jolly/bench';
import { faultsLaid, type HandAct } from '@jolly/core/bringup/handAct';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import { resolve } from '@jolly/core/machine/facts';
import { expose } from 'comlink';

/** A line with the bench's clock when it was there, in s. */
export interface HeardLine {
  line: string;
  atS: number;
}

/** What the bench tells the interface, gathered over a short while. */
export interface BenchNews extends BenchLook {
  lines: HeardLine[];
  /** Blocks of the card that the firmware wrote. */
  written: [number, Uint8Array][];
  /** The stored settings, when the firmware wrote them. */
  store?: Uint8Array;
}

/** Of the machine on this bench: where it stands at power-on, how its plate is shaped. */
const SEED = 1;
const PULSE_MS = 40;
/** Longest piece run in one go, so that a stop always gets through. */
const SLICE_S = 0.02;
/** Share of each pulse that may be spent running. */
const BUSY_MS = 28;

let bench: RecordedBench | undefined;
let timer: ReturnType<typeof setInterval> | undefined;
let pace: Pace = 1;
let lines: HeardLine[] = [];
/** A test is under way; so many lines that were sent are not answered yet. */
let stepping = false;
let unanswered = 0;
let reporting: ((news: BenchNews) => void) | undefined;
const CLOSING = /^(done$|error: |stopped: )/;
let storeWritten = false;
let written: [number, Uint8Array][] = [];

let stoodAt = '';
/** Whether something is heated, or has moved since it was asked last. */
function works(of: RecordedBench): boolean {
  const { position, duty } = of.truth();
  const at = Object.values(position).join();
  const moved = at !== stoodAt;
  stoodAt = at;
  return moved || Object.values(duty).some((share) => share > 0);
}

function pulse(report: (news: BenchNews) => void): void {
  if (!bench) return;
  const deadline = performance.now() + BUSY_MS;
  // As fast as can be only while something moves or heats: hours of standing idle would help nobody, and could not be proven from.
  const factor = Number.isFinite(pace) || works(bench) ? pace : 1;
  // While a test goes on, what it waits for is run at once; between, the clock hardly moves.
  let left = (stepping && pace > 1 ? PULSE_MS : factor * PULSE_MS) / 1000;
  while (left > 1e-9 && performance.now() < deadline) {
    bench.advance(Math.min(left, SLICE_S));
    left -= SLICE_S;
  }
  tell(report);
}

/** Tells what has come since it was told last. */
function tell(report: (news: BenchNews) => void): void {
  if (!bench) return;
  const display = bench.display();
  report({
    lines,
    written,
    view: bench.view(),
    nowS: bench.nowS(),
    ...(display && { display }),
    ...(storeWritten && { store: bench.store() }),
  });
  lines = [];
  written = [];
  // A byte that is still being written is not kept yet.
  storeWritten = bench.storing();
}

function hear(line: string): void {
  lines.push({ line, atS: bench?.nowS() ?? 0 });
  if (CLOSING.test(line)) unanswered = Math.max(0, unanswered - 1);
}

/** Runs on until everything that was sent is answered, in pieces, so that a stop gets through. */
function step(): void {
  if (!bench || !reporting || unanswered === 0) return;
  const deadline = performance.now() + BUSY_MS;
  while (unanswered > 0 && performance.now() < deadline) bench.advanceUntil(() => unanswered === 0, SLICE_S);
  if (unanswered > 0) setTimeout(step, 0);
  else tell(reporting);
}

let put: PrintCard | undefined;
const blocksOf = (card: PrintCard | undefined) =>
  card && cardBlocks(card.files, card.written, (block, bytes) => void written.push([block, bytes]));

const worker = {
  async powerOn(
    machine: Machine,
    catalogue: Catalogue,
    state: BoardState,
    begins: Beginning | undefined,
    hands: readonly HandAct[],
    report: (news: BenchNews) => void,
  ): Promise<Woken> {
    worker.powerOff();
    const resolved = resolve(machine, catalogue);
    if ('problems' in resolved)
      return { silent: resolved.problems[0].message, mend: 'Mend the machine file first.' };
    const { facts } = resolved;
    const laid = faultsLaid(hands);
    const { hostBaud, portHeld } = linkAround(facts, laid, numberOf(derive(facts), 'link.baud'));
    if (portHeld)
      return { silent: 'another program holds its port', mend: 'Close it there, then switch on again.' };
    bench = await powerOnRecorded({
      facts,
      state,
      seed: SEED,
      hands,
      ...(begins && { begins }),
      ...(put && { card: blocksOf(put) }),
      hostBaud,
      onLine: hear,
      // In brackets: it is the bench that speaks, not the image.
      onNotice: (notice) => void lines.push({ line: `(bench: ${notice})`, atS: bench?.nowS() ?? 0 }),
      onStore: () => (storeWritten = true),
    });
    reporting = report;
    timer = setInterval(() => pulse(report), PULSE_MS);
    return 'silent' in bench.running ? bench.running : {};
  },
  powerOff(): void {
    clearInterval(timer);
    bench = undefined;
    reporting = undefined;
    lines = [];
  },
  setPace(wanted: Pace): void {
    pace = wanted;
  },
  setStepping(on: boolean): void {
    stepping = on;
    unanswered = 0;
  },
  send(line: string): void {
    bench?.send(line);
    if (!stepping || pace <= 1 || !bench) return;
    unanswered += 1;
    step();
  },
  hand(act: HandAct): void {
    bench?.hand(act);
  },
  turn(steps: number): void {
    bench?.turn(steps);
  },
  press(): void {
    bench?.press();
  },
  touch(finger: Finger | undefined): void {
    bench?.touch(finger);
  },
  putCard(card: PrintCard | undefined): void {
    put = card;
    bench?.putCard(blocksOf(card));
  },
  recording(): Recording | undefined {
    return bench?.recording();
  },
};
export type BenchWorker = typeof worker;

expose(worker);
