import fc from 'fast-check';
import { powerOn, powerOnRecorded, replayed } from '@jolly/bench';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { workshop } from './fixtures/builtMachine';

const plover = workshop();
const LINES = [
  'G28',
  'G28 X',
  'G1 X120 Y80 F6000',
  'M104 S200',
  'M140 S60',
  'M119',
  'state',
  'M401',
  'M112',
  'wake',
  'M503',
  'M500',
];

const acts = fc.array(
  fc.oneof(
    fc.record({ after: fc.double({ min: 0, max: 4, noNaN: true }), line: fc.constantFrom(...LINES) }),
    fc.record({
      after: fc.double({ min: 0, max: 4, noNaN: true }),
      part: fc.constantFrom('x-switch', 'y-switch', 'probe'),
      held: fc.boolean(),
    }),
  ),
  { minLength: 1, maxLength: 8 },
);
const options = () => ({ facts: plover.facts(), state: plover.state(), seed: 3, hostBaud: 115200 });

describe('a run', () => {
  it('does not hang on how time is cut into pieces, nor on who looks meanwhile', async () => {
    await fc.assert(
      fc.asyncProperty(acts, fc.array(fc.double({ min: 0.001, max: 0.7, noNaN: true }), { minLength: 1, maxLength: 5 }), async (given, cuts) => {
        const told = async (cut: boolean) => {
          const heard: string[] = [];
          const bench = await powerOn({ ...options(), onLine: (line) => void heard.push(line) });
          const until = (at: number) => {
            for (let turn = 0; cut && bench.nowNs() < at; turn += 1) {
              bench.advanceTo(Math.min(at, bench.nowNs() + (cuts[turn % cuts.length] ?? 0.1) * 1e9));
              bench.view();
              bench.truth();
            }
            bench.advanceTo(at);
          };
          let at = 0.2e9;
          for (const act of given) {
            until((at += Math.round(act.after * 1e9)));
            if ('line' in act) bench.send(act.line);
            else bench.hold(act.part, act.held);
          }
          until(at + 5e9);
          return [heard, bench.truth()];
        };
        expect(await told(true)).toEqual(await told(false));
      }),
      { numRuns: 25 },
    );
  }); // prettier-ignore
  it('over a plate that warms does not hang on who looks, to the last digit', async () => {
    const told = async (looks: boolean) => {
      const heard: string[] = [];
      const bench = await powerOn({ ...options(), onLine: (line) => void heard.push(line) });
      for (const line of ['M140 S60', 'G28', 'map take']) {
        bench.send(line);
        for (let passed = 0; passed < 60; passed += 0.25) {
          bench.advance(0.25);
          if (looks) bench.truth();
        }
      }
      return [heard, bench.truth()];
    };
    expect(await told(true)).toEqual(await told(false));
  });
  it('that was written down is the same when it is run again, and not another one', async () => {
    await fc.assert(
      fc.asyncProperty(acts, async (given) => {
        const bench = await powerOnRecorded(options());
        for (const act of given) {
          bench.advance(act.after);
          if ('line' in act) bench.send(act.line);
          else bench.hold(act.part, act.held);
        }
        bench.advance(2.7);
        const recording = certain(bench.recording(), 'a run without a card');
        const image = certain(plover.state().image ?? undefined, 'the image');
        expect(await replayed(plover.facts(), image, recording)).toBeUndefined();
        expect(await replayed(plover.facts(), image, { ...recording, sum: recording.sum ^ 4 })).toMatch(
          /not the same ones/,
        );
        expect(await replayed(plover.facts(), image, { ...recording, heard: recording.heard + 1 })).toMatch(
          /lines where/,
        );
      }),
      { numRuns: 15 },
    );
  });
  it('that was too long is not run again', async () => {
    const recording = {
      seed: 1,
      hostBaud: 115200,
      store: '',
      hands: [],
      inputs: [],
      untilNs: 13 * 3600e9,
      heard: 0,
      sum: 0,
    };
    expect(await replayed(plover.facts(), new Uint8Array(0), recording)).toMatch(/on for too long/);
  });
});
