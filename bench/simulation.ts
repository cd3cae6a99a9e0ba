import { type Bench, blankBoard, powerOn } from '@jolly/bench';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import type { Facts } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';

type Build = (facts: Facts) => Promise<Uint8Array>;
type Say = (what: string, figure: string) => void;

const RUNS = 9;

interface Talking {
  bench: Bench;
  /** Sends a line and lets time pass until it is answered. */
  ask(line: string): string;
  /** Sends lines as a host does that keeps three on their way. */
  stream(lines: readonly string[]): void;
}

async function talking(facts: Facts, image: Uint8Array, seed: number): Promise<Talking> {
  let closed = 0;
  let last = '';
  const bench = await powerOn({
    facts,
    state: { ...blankBoard(facts.chip), image },
    seed,
    onLine: (line) => {
      if (!/^(done|error|stopped)/.test(line)) return;
      closed += 1;
      last = line;
    },
  });
  bench.advance(0.2);
  return {
    bench,
    ask(line) {
      const before = closed;
      bench.send(line);
      bench.advanceUntil(() => closed > before, 3600);
      return last;
    },
    stream(lines) {
      const before = closed;
      for (const [index, line] of lines.entries()) {
        bench.send(line);
        bench.advanceUntil(() => closed - before >= index - 2, 60);
      }
      bench.advanceUntil(() => closed - before >= lines.length, 60);
    },
  };
}

/**
 * Simulated per real time of one act, slowest run first; one before them warms up. The best is what the code can do; what
 * lies below it is what others did on the machine meanwhile.
 */
async function ratios(
  begin: (seed: number) => Promise<Talking>,
  act: (talk: Talking) => void,
): Promise<number[]> {
  const found: number[] = [];
  for (let run = 0; run <= RUNS; run += 1) {
    const talk = await begin(run + 1);
    const from = talk.bench.nowS();
    const began = performance.now();
    act(talk);
    if (run > 0) found.push(((talk.bench.nowS() - from) * 1000) / (performance.now() - began));
  }
  return found.sort((a, b) => a - b);
}

/** A round of 0.2 mm pieces, filament with it, so many seconds long at 80 mm/s. */
function printed(seconds: number): string[] {
  const around = 0.2 / 40;
  return Array.from({ length: (seconds * 80) / 0.2 }, (_, n) => {
    const angle = (n + 1) * around;
    return `G1 X${(100 + 40 * Math.cos(angle)).toFixed(3)} Y${(100 + 40 * Math.sin(angle)).toFixed(3)} E0.00700`;
  });
}

/** How much faster than the real thing the bench runs: each kind of work by itself, no idle time counted. */
export async function simulationBench(
  plover: Machine,
  factsOf: (machine: Machine) => Facts,
  build: Build,
  say: Say,
): Promise<void> {
  const facts = factsOf(plover);
  const image = await build(facts);
  const at = (seed: number) => talking(facts, image, seed);
  const told = (what: string, found: number[], budget: number) => {
    const [median, best] = [found[Math.floor(found.length / 2)]!, found.at(-1)!];
    const figure = `${median.toFixed(0)} ×, at best ${best.toFixed(0)} × (budget ${budget} ×)`;
    say(`simulated per real time, ${what}`, figure);
  };

  // First, as a worker that has run nothing else. At 115200 baud the line itself could not bring 400 moves a second.
  const quick = factsOf(applyEdits(plover, [overrideEdit('link.baud', 500000, 'bench')]));
  const quickImage = await build(quick);
  const lines = printed(240);
  const hot = async (seed: number) => {
    const talk = await talking(quick, quickImage, seed);
    for (const line of ['G28', 'M109 S210', 'M83', 'G1 X140 Y100 Z0.3 F4800', 'M400']) talk.ask(line);
    return talk;
  };
  told('printing, 0.2 mm at 80 mm/s', await ratios(hot, ({ stream }) => stream(lines)), 500);

  told('homing alone', await ratios(at, ({ ask }) => { for (let n = 0; n < 16; n += 1) ask('G28'); }), 500); // prettier-ignore
  told('heating alone', await ratios(at, ({ ask }) => void ask('M190 S60')), 500);
  const homed = async (seed: number) => {
    const talk = await at(seed);
    talk.ask('G28');
    return talk;
  };
  told('mapping, 5 by 5', await ratios(homed, ({ ask }) => void ask('map take')), 500);
  await redraw(plover, factsOf, build, say);
  // Steps so fine that 100 mm/s are 100 kHz; the plant need not agree with them.
  const fine = applyEdits(
    plover,
    ['x', 'y', 'z'].flatMap((axis) => [
      overrideEdit(`steps.${axis}`, 1000, 'bench'),
      overrideEdit(`speed.${axis}`, 100, 'bench'),
      overrideEdit(`accel.${axis}`, 5000, 'bench'),
    ]),
  );
  const known = factsOf(fine);
  const fast = { ...known, chip: { ...known.chip, step_rate_hz: 1_000_000 } };
  const pulses = await build(fast);
  const there = ['G1 X9 Y9 Z9 F10392', 'G1 X-9 Y-9 Z-9'];
  const runs = Array.from({ length: 200 }, (_, n) => there[n % 2]!);
  const relative = async (seed: number) => {
    const talk = await talking(fast, pulses, seed);
    talk.ask('G91');
    return talk;
  };
  told('100 kHz on three axes', await ratios(relative, ({ stream }) => stream(runs)), 60);
}

/** Redraws a second, see display.c. */
const REDRAWS = 4;

/** What drawing the pixel display anew takes of an 8-bit chip: what the load grows by, over the redraws of a second. */
async function redraw(
  plover: Machine,
  factsOf: (machine: Machine) => Facts,
  build: Build,
  say: Say,
): Promise<void> {
  const load = async (kind: string) => {
    const known = factsOf(applyEdits(plover, [overrideEdit('display.kind', kind, 'bench')]));
    const eight = known.catalogue.chips.find(({ word_bits }) => word_bits === 8);
    if (!eight) throw new Error('the catalogue has an 8-bit chip');
    const { bench } = await talking({ ...known, chip: eight }, await build(known), 1);
    // The picture at power-on counts little over so long.
    bench.advance(300);
    return bench.load();
  };
  const share = (await load('pixel')) - (await load('none'));
  say('redraw of a pixel display on an 8-bit chip', `${((share * 1000) / REDRAWS).toFixed(2)} ms (budget 5 ms)`); // prettier-ignore
}
