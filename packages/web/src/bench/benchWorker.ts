import {
  type BenchLook,
  type BoardState,
  type Pace,
  powerOnRecorded,
  type RecordedBench,
  type Recording,
} from '@jolly/bench';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import { resolve } from '@jolly/core/machine/facts';
import { expose } from 'comlink';

/** What the bench tells the interface, gathered over a short while. */
export interface BenchNews extends BenchLook {
  lines: string[];

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
let lines: string[] = [];
let storeWritten = false;

function pulse(report: (news: BenchNews) => void): void {
  if (!bench) return;
  const deadline = performance.now() + BUSY_MS;
  let left = (pace * PULSE_MS) / 1000;
  while (left > 1e-9 && performance.now() < deadline) {
    bench.advance(Math.min(left, SLICE_S));
    left -= SLICE_S;
  }
  report({ lines, view: bench.view(), nowS: bench.nowS(), ...(storeWritten && { store: bench.store() }) });
  lines = [];
  storeWritten = false;
}

const worker = {
  async powerOn(
    machine: Machine,
    catalogue: Catalogue,
    state: BoardState,
    report: (news: BenchNews) => void,
  ): Promise<{ silent?: string }> {
    worker.powerOff();
    const resolved = resolve(machine, catalogue);
    if ('problems' in resolved) return { silent: resolved.problems[0].message };
    bench = await powerOnRecorded({
      facts: resolved.facts,
      state,
      seed: SEED,
      hostBaud: numberOf(derive(resolved.facts), 'link.baud'),
      onLine: (line) => void lines.push(line),
      // In brackets: it is the bench that speaks, not the image.
      onNotice: (notice) => void lines.push(`(bench: ${notice})`),
      onStore: () => (storeWritten = true),
    });
    timer = setInterval(() => pulse(report), PULSE_MS);
    return 'silent' in bench.running ? { silent: bench.running.silent } : {};
  },
  powerOff(): void {
    clearInterval(timer);
    bench = undefined;
    lines = [];
  },
  setPace(wanted: Pace): void {
    pace = wanted;
  },
  send(line: string): void {
    bench?.send(line);
  },
  hold(partId: string, held: boolean): void {
    bench?.hold(partId, held);
  },
  recording(): Recording | undefined {
    return bench?.recording();
  },
};
export type BenchWorker = typeof worker;

expose(worker);
