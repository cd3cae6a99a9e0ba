import type { Answer, Question } from '@jolly/core/bringup/procedure';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { type Hands, runProcedure } from '../src/runProcedure';

const plover = demoMachine('plover');
const withRelay = {
  ...plover,
  parts: [...plover.parts, { id: 'bed-relay', part: 'sluice-s10', role: 'bed' }],
};
const PROOFS = [demoMachine('bittern'), withRelay].flatMap((machine) => proofsOf(factsOf(machine)));
const built = { kitVersion: '0.1.0', target: 't', loadAddress: 0, buildId: '1a2b3c4d', name: 'Plover' };

/** A board that answers each question with the next of its replies, the last one over and over. */
function tools(
  replies: Record<string, string[][]>,
  changes: Partial<Hands> = {},
): Hands & { asked: string[]; told: string[] } {
  const asked: string[] = [];
  const told: string[] = [];
  const ask = (line: string): Promise<Answer> => {
    asked.push(line);
    const left = replies[line] ?? [['done']];
    const lines = (left.length > 1 ? left.shift() : left[0]) ?? [];
    const last = lines.at(-1);
    return Promise.resolve({ lines, ...(last !== 'done' && last && { problem: last }) });
  };
  const moment = () => Promise.resolve();
  const choose = (question: Question) => Promise.resolve(question.choices[0]?.id);
  return {
    ask,
    asked,
    told,
    tell: (text) => told.push(text),
    choose,
    moment,
    givenUp: () => false,
    ...changes,
  };
}
const runProof = async (step: string, hands: Hands) => {
  const proof = PROOFS.find(({ id }) => id === step);
  if (!proof) throw new Error(`no demo machine has the proof ${step}`);
  return runProcedure(proof.run(built), hands);
};
const outcome = async (step: string, hands: Hands) => (await runProof(step, hands)).outcome;

describe('identity', () => {
  const who = (name: string, build: string) => ({
    M115: [[`lantern name="${name}" kit=0.1.0 target=t build=${build}`, 'done']],
  });
  it('is proven only by the very build that was made', async () => {
    expect(await outcome('identity', tools(who('Plover', '1a2b3c4d')))).toBe('proven');
    expect(await outcome('identity', tools(who('Plover', '00000000')))).toBe('failed');
    expect(await outcome('identity', tools(who('Other', '1a2b3c4d')))).toBe('failed');
    expect(await outcome('identity', tools({}))).toBe('failed');
  });
  it('is never proven where nobody knows what was built', async () => {
    const [identity] = PROOFS;
    const hands = tools(who('Plover', '1a2b3c4d'));
    expect(await runProcedure(identity!.run(undefined), hands)).toMatchObject({ outcome: 'failed' });
  });
});

describe('stored settings', () => {
  it('are reset, stored and loaded again, in that order', async () => {
    const given = tools({ M501: [['store state=loaded', 'done']] });
    expect(await outcome('store', given)).toBe('proven');
    expect(given.asked.filter((line) => line !== 'M503')).toEqual(['M502', 'M500', 'M501']);
    expect(await outcome('store', tools({ M500: [['error: this board keeps no settings']] }))).toBe('failed');
    expect(await outcome('store', tools({ M501: [['store state=damaged', 'done']] }))).toBe('failed');
  });
});

describe('cold', () => {
  const reads = (...values: number[]) => ({
    M105: [
      [
        ...values.map((c, at) => `heat body=${at === 0 ? 'hotend' : 'bed'} now=${c} target=0.0 duty=0.00`),
        'done',
      ],
    ],
  });
  it('wants every sensor near the temperature of a room', async () => {
    expect(await outcome('cold', tools(reads(21, 22.5)))).toBe('proven');
    expect(await outcome('cold', tools(reads(21, -30)))).toBe('failed');
    expect(await outcome('cold', tools(reads(85, 21)))).toBe('failed');
    expect(await outcome('cold', tools(reads()))).toBe('failed');
  });
});

describe('a heater alone', () => {
  /** A board whose hot end warms at so many °C a second while it is asked for heat, by its own clock. */
  function warming(perS: number, bedPerS = 0) {
    let [atS, asked] = [100, false];
    let [hotend, bed] = [21, 21];
    return (line: string): Promise<Answer> => {
      if (line.startsWith('M104')) asked = line !== 'M104 S0';
      if (line === 'G4 S1') {
        atS += 1;
        if (asked) [hotend, bed] = [hotend + perS, bed + bedPerS];
      }
      const lines = line === 'M105' ? [`heat body=hotend now=${hotend} target=0 duty=0`, `heat body=bed now=${bed} target=0 duty=0`, 'done'] : ['done']; // prettier-ignore
      return Promise.resolve({ lines, atS });
    };
  }
  const heated = (perS: number, bedPerS?: number) => runProof('heat-hotend', { ...tools({}), ask: warming(perS, bedPerS) }); // prettier-ignore
  it('is proven at the pace of its watts, and the evidence says how long it took', async () => {
    const result = await heated(2);
    expect(result.outcome).toBe('proven');
    expect(result.evidence[0]).toBe('hotend 21.0 → 47.0 °C in 13 s');
  });
  it('is not when it is far too fast, hardly warms, or another body does', async () => {
    expect(await heated(12)).toMatchObject({ outcome: 'failed', finding: 'fast' });
    expect(await heated(0)).toMatchObject({ outcome: 'failed', finding: 'none' });
    expect(await heated(0.15)).toMatchObject({ outcome: 'failed', finding: 'slow' });
    expect(await heated(0, 1)).toMatchObject({ outcome: 'failed', finding: 'other' });
  });
});

describe('a sensor by hand', () => {
  const reads = (hotend: number) => ({ M105: [[`heat body=hotend now=${hotend} target=0.0 duty=0.00`, 'heat body=bed now=21 target=0.0 duty=0.00', 'done']] }); // prettier-ignore
  it('sends nobody to touch what is hot', async () => {
    const hands = tools(reads(180));
    expect(await runProof('warm-hotend', hands)).toMatchObject({ outcome: 'failed', finding: 'refused' });
    expect(hands.told).toEqual([]);
  });
});

describe('switches and probe', () => {
  /** Every look reads several times; each state stands for one look. */
  const states = (input: string, ...seen: string[]) => ({
    M119: seen.flatMap((state) => Array<string[]>(16).fill([`switch ${input}=${state}`, 'done'])),
  });
  it('must be read open, closed and open again', async () => {
    const result = await runProof('switch-x', tools(states('x', 'open', 'open', 'closed', 'open')));
    expect(result).toEqual({ outcome: 'proven', evidence: ['x read open, then closed, then open'] });
  });
  it('a switch that reads closed with nothing at it is not proven, however often it is pressed', async () => {
    const free = { choose: () => Promise.resolve('free') };
    const result = await runProof('switch-x', tools(states('x', 'closed', 'open', 'closed', 'open'), free));
    expect(result).toMatchObject({ outcome: 'failed', finding: 'always' });
  });
  it('one that is pressed to begin with is taken off it, and then proven', async () => {
    const result = await runProof('switch-x', tools(states('x', 'closed', 'open', 'closed', 'open')));
    expect(result.outcome).toBe('proven');
  });
  it('an input that reads by chance is not proven: looks that do not agree with themselves count against it', async () => {
    const chance = Array.from({ length: 400 }, (_, at) => [
      `switch x=${at % 3 === 0 ? 'closed' : 'open'}`,
      'done',
    ]);
    const result = await runProof('switch-x', tools({ M119: chance }));
    expect(result).toMatchObject({ outcome: 'failed', finding: 'chatters' });
  });
  it('an input the board does not report fails at once', async () => {
    expect(await outcome('switch-y', tools(states('x', 'open')))).toBe('failed');
  });
  it('the probe is let out first and drawn in again', async () => {
    const given = tools(states('probe', 'open', 'closed', 'open'));
    expect(await outcome('probe', given)).toBe('proven');
    expect(given.asked[0]).toBe('M401');
    expect(given.asked.at(-1)).toBe('M402');
  });
});

describe('homing', () => {
  it('wants all three axes homed and tells where it stands', async () => {
    const at = (homed: string) => ({ M114: [[`at x=1.000 y=2.000 z=3.000 e=0.000 homed=${homed}`, 'done']] });
    expect(await runProof('home', tools(at('xyz')))).toEqual({
      outcome: 'proven',
      evidence: ['homed xyz', 'at X 1.000, Y 2.000, Z 3.000 mm'],
    });
    expect(await outcome('home', tools(at('xy-')))).toBe('failed');
    const stopped = await runProof('home', tools({ G28: [['stopped: homing did not meet its switch']] }));
    expect(stopped).toMatchObject({
      outcome: 'failed',
      finding: 'no switch met',
      evidence: expect.arrayContaining(['stopped: homing did not meet its switch']) as string[],
    });
  });
});

describe('the relay of a bed', () => {
  const heat = (now: number, duty: number) => [`heat body=bed now=${now} target=0.0 duty=${duty}`, 'done'];
  const run = (...seen: [number, number][]) =>
    runProof('relay-bed', tools({ M105: seen.map(([now, duty]) => heat(now, duty)) }));
  it('is proven when it goes on, drops out, and the bed stops rising', async () => {
    expect(await run([21, 0], [24, 0.8], [26, 0], [29, 0])).toMatchObject({ outcome: 'proven' });
  });
  it('is not proven when it never went on, when it is still asked, and when the bed still heats', async () => {
    expect(await run([21, 0], [21, 0], [21, 0], [21, 0])).toMatchObject({ outcome: 'failed' });
    expect(await run([21, 0], [24, 0.8], [26, 0.8], [29, 0])).toMatchObject({ outcome: 'failed' });
    const stuck = await run([21, 0], [24, 0.8], [26, 0], [60, 0]);
    expect(stuck.outcome).toBe('failed');
    expect(stuck.evidence.at(-1)).toMatch(/it still heats/);
  });
  it('asks for no heat any more when it ends', async () => {
    const hands = tools({ M105: [heat(21, 0.5)] });
    await runProof('relay-bed', hands);
    expect(hands.asked.filter((line) => line.startsWith('M140'))).toEqual(['M140 S36', 'M140 S0']);
  });
  it('a bed that is not reported is nothing to heat', async () => {
    const hands = tools({ M105: [['done']] });
    expect(await outcome('relay-bed', hands)).toBe('failed');
    expect(hands.asked).toEqual(['M105']);
  });
});
