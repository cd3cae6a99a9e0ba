import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Edit } from '@jolly/core/machine/edit';
import { describe, expect, it } from 'vitest';
import { type Talk, own, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();
const X = 0;
const Y = 1;
const E = 3;

/** Pulses in the order they reached the drivers: when a stretch ended, which motor, how many, how fast. */
interface Trace {
  at: number;
  motor: number;
  steps: number;
  perSecond: number;
}

interface Traced extends Talk {
  trace: Trace[];
}

/** Plover homed and at X 100, Y 100, Z 20, its steps written down from then on. */
async function traced(...edits: Edit[]): Promise<Traced> {
  const trace: Trace[] = [];
  const { facts, state } = await plover.built(own('extrude.from', 0), ...edits);
  const talk = await talkTo({
    facts,
    state,
    onPulses(pulses, entries, _seconds, at) {
      for (const { motor, high, count, perSecond } of pulses.slice(0, entries))
        trace.push({ at, motor, steps: high ? count : -count, perSecond });
    },
  });
  for (const line of ['G28', 'G1 X100 Y100 Z20 F9000', 'M400']) talk.ask(line);
  trace.length = 0;
  return { ...talk, trace };
}

const made = (trace: Trace[], motor: number) =>
  Math.abs(trace.reduce((sum, entry) => (entry.motor === motor ? sum + entry.steps : sum), 0));
/** Sends lines one behind the other, as a host with a buffer does, and waits until nothing moves. */
function stream({ bench, heard, ask }: Talk, lines: string[]): void {
  let answered = 0;
  let seen = heard.length;
  const look = () => {
    for (; seen < heard.length; seen += 1) if (/^(done|error)/.test(heard[seen] ?? '')) answered += 1;
    return answered;
  };
  for (const [index, line] of lines.entries()) {
    bench.send(line);
    bench.advanceUntil(() => look() >= index - 2, 60);
  }
  bench.advanceUntil(() => look() === lines.length, 600);
  ask('M400');
}
/** Highest speed of a motor in a window of time, in mm/s. */
const speeds = (trace: Trace[], motor: number, stepsPerMm: number) =>
  trace.filter((entry) => entry.motor === motor).map(({ perSecond }) => perSecond / stepsPerMm);

describe('speed is carried through joints', () => {
  it('a straight line in fifty pieces takes no longer than in one', async () => {
    const seconds = async (pieces: number) => {
      const talk = await traced();
      const from = talk.bench.nowS();
      stream(
        talk,
        Array.from({ length: pieces }, (_, n) => `G1 X${100 + (100 * (n + 1)) / pieces} F6000`),
      );
      return talk.bench.nowS() - from;
    };
    const whole = await seconds(1);
    expect(Math.abs((await seconds(50)) - whole)).toBeLessThan(0.1);
  });
  it('a round of short pieces is driven at its speed, not from rest to rest', async () => {
    const talk = await traced();
    const pieces = Array.from({ length: 200 }, (_, n) => {
      const angle = (2 * Math.PI * (n + 1)) / 200;
      return `G1 X${(80 + 20 * Math.cos(angle)).toFixed(3)} Y${(100 + 20 * Math.sin(angle)).toFixed(3)} F3600`;
    });
    const from = talk.bench.nowS();
    stream(talk, pieces);
    // 126 mm at 60 mm/s.
    expect(talk.bench.nowS() - from).toBeLessThan(2.6);
    expect(talk.bench.view().position.x).toBeCloseTo(100, 1);
    expect(talk.bench.view().position.y).toBeCloseTo(100, 1);
  });
  it('a square corner is taken no faster than the jolt allows', async () => {
    for (const jolt of [4, 12]) {
      const talk = await traced(own('corner.jolt.x', jolt), own('corner.jolt.y', jolt));
      stream(talk, ['G1 X150 F6000', 'G1 Y150']);
      const last = talk.trace.findLast(({ motor }) => motor === X)!;
      const first = talk.trace.find(({ motor }) => motor === Y)!;
      // Within one segment of 2 ms speed changes by 2.4 mm/s, and single pulses stand for it.
      expect(last.perSecond / 100).toBeLessThan(jolt + 4);
      expect(first.perSecond / 80).toBeLessThan(jolt + 4);
      expect(Math.max(...speeds(talk.trace, X, 100))).toBeGreaterThan(90);
    }
  });
  it('by deviation a small cut means a slow corner', async () => {
    const through = async (mm: number) => {
      const talk = await traced(own('corner.by', 'deviation'), own('corner.deviation', mm));
      stream(talk, ['G1 X150 F6000', 'G1 Y150']);
      return talk.trace.findLast(({ motor }) => motor === X)!.perSecond / 100;
    };
    const [fine, coarse] = [await through(0.005), await through(0.3)];
    expect(coarse).toBeGreaterThan(fine * 2);
  });
  it('no axis is ever faster, or speeds up faster, than its own limit', async () => {
    const talk = await traced();
    stream(talk, ['G1 X230 Y200 F60000', 'G1 X10 Y190', 'G1 X20 Y20 Z30', 'G1 X200 Z20', 'G1 X100 Y100']);
    expect(Math.max(...speeds(talk.trace, X, 100))).toBeLessThan(200 * 1.02);
    expect(Math.max(...speeds(talk.trace, Y, 80))).toBeLessThan(160 * 1.02);
    expect(talk.bench.view().blocked).toEqual({ x: 0, y: 0, z: 0 });
    expect(talk.bench.truth().lost).toEqual({ x: 0, y: 0, z: 0, e: 0 });
  });
});

describe('steps', () => {
  it('a square stays square within a step, over many rounds and odd lengths', async () => {
    const talk = await traced();
    const before = talk.bench.view().position;
    talk.ask('G91');
    const side = 7.7777;
    const round = [`G1 X${side} F9000`, `G1 Y${side}`, `G1 X-${side}`, `G1 Y-${side}`];
    stream(talk, Array.from({ length: 25 }, () => round).flat());
    const after = talk.bench.view().position;
    expect(Math.abs(after.x - before.x)).toBeLessThanOrEqual(0.0101);
    expect(Math.abs(after.y - before.y)).toBeLessThanOrEqual(0.0126);
  });
  it('filament is exact over ten thousand small pieces, absolute and relative', async () => {
    for (const mode of ['M82', 'M83']) {
      const talk = await traced();
      talk.ask(mode);
      talk.ask('G92 E0');
      const piece = 0.00741;
      const count = 2000;
      stream(
        talk,
        Array.from({ length: count }, (_, n) => {
          const e = mode === 'M82' ? (piece * (n + 1)).toFixed(5) : piece.toFixed(5);
          return `G1 X${100 + (n % 40) / 10} E${e} F6000`;
        }),
      );
      const stepsPerMm = Number(/E([\d.]+)/.exec(talk.ask('M503').join('\n'))![1]);
      expect(Math.abs(made(talk.trace, E) - piece * count * stepsPerMm)).toBeLessThanOrEqual(1);
      expect(Number(talk.values('M114', 'at')['e'])).toBeCloseTo(
        mode === 'M82' ? piece * count : piece * count,
        2,
      );
    }
  });
  it('pulses of a run never come after its segment, nor before the last one', async () => {
    const talk = await traced();
    stream(talk, ['G1 X180 Y30 F12000', 'G1 X20 Y190', 'G1 X100 Y100']);
    const times = talk.trace.map(({ at }) => at);
    expect(times).toEqual([...times].sort((a, b) => a - b));
  });
});

/** A dozen moves, each from rest: [name, lines]. */
const MOVES: [string, string[]][] = [
  ['short', ['G1 X100.05 F3000']],
  ['one step', ['G1 X100.01']],
  ['long', ['G1 X220 F12000']],
  ['back', ['G1 X20 F9000']],
  ['slow', ['G1 X101 F30']],
  ['diagonal', ['G1 X150 Y150 F9000']],
  ['uneven', ['G1 X131 Y107 F6000']],
  ['up', ['G1 Z25 F900']],
  ['filament', ['G91', 'G1 E12 F1200']],
  ['print', ['M83', 'G1 X140 E1.5 F3600']],
  ['corner', ['G1 X140 F6000', 'G1 Y140']],
  ['zigzag', ['G1 X110 Y101 F6000', 'G1 X100 Y102', 'G1 X110 Y103', 'G1 X100 Y104']],
];
const GOLDEN = join(import.meta.dirname, 'fixtures/stepTraces.json');

describe('golden step traces', () => {
  it('of a dozen moves are as they were (delete the file and run to make them anew)', async () => {
    const traces: Record<string, unknown> = {};
    for (const [name, lines] of MOVES) {
      const talk = await traced();
      const from = talk.bench.nowS();
      stream(talk, lines);
      traces[name] = {
        seconds: Number((talk.bench.nowS() - from).toFixed(3)),
        motors: [0, 1, 2, 3].map((motor) => {
          const own = talk.trace.filter((entry) => entry.motor === motor);
          return {
            steps: own.reduce((sum, { steps }) => sum + steps, 0),
            fastest: Math.round(Math.max(0, ...own.map(({ perSecond }) => perSecond))),
            // Where it stood every tenth of a second.
            way: wayOf(own, from),
          };
        }),
      };
    }
    if (!existsSync(GOLDEN)) writeFileSync(GOLDEN, `${JSON.stringify(traces, null, 1)}\n`);
    expect(traces).toEqual(JSON.parse(readFileSync(GOLDEN, 'utf8')));
  });
});

function wayOf(own: Trace[], from: number): number[] {
  const way: number[] = [];
  let at = 0;
  for (const { at: when, steps } of own) {
    while (from + (way.length + 1) / 10 < when) way.push(at);
    at += steps;
  }
  return way;
}
