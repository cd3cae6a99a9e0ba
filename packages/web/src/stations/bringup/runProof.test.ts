import type { Facts } from '@jolly/core/machine/facts';
import { describe, expect, it } from 'vitest';
import type { Answer } from '../../bench/askQueue';
import { type ProofTools, runProof } from './runProof';

const built = { kitVersion: '0.1.0', target: 't', loadAddress: 0, buildId: '1a2b3c4d', name: 'Plover' };
/** A board that answers each question with the next of its replies, the last one over and over. */
function tools(
  replies: Record<string, string[][]>,
  changes: Partial<ProofTools> = {},
): ProofTools & { asked: string[] } {
  const asked: string[] = [];
  const ask = (line: string): Promise<Answer> => {
    asked.push(line);
    const left = replies[line] ?? [['done']];
    const lines = (left.length > 1 ? left.shift() : left[0])!;
    const last = lines.at(-1)!;
    return Promise.resolve({ lines, ...(last !== 'done' && { problem: last }) });
  };
  return { ask, asked, built, facts: {} as Facts, prompt: () => undefined, given: () => false, ...changes };
}
const outcome = async (step: string, given: ProofTools) => (await runProof(step, given)).outcome;

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
});

describe('stored settings', () => {
  it('are reset, stored and loaded again, in that order', async () => {
    const given = tools({ M501: [['store state=loaded', 'done']] });
    expect(await outcome('store', given)).toBe('proven');
    expect(given.asked).toEqual(['M502', 'M500', 'M501']);
    expect(await outcome('store', tools({ M500: [['error: this board keeps no settings']] }))).toBe('failed');
    expect(await outcome('store', tools({ M501: [['store state=damaged', 'done']] }))).toBe('failed');
  });
});

describe('cold', () => {
  const reads = (...values: number[]) => ({
    M105: [[...values.map((c) => `heat body=bed now=${c} target=0.0 duty=0.00`), 'done']],
  });
  it('wants every sensor near the temperature of a room', async () => {
    expect(await outcome('cold', tools(reads(21, 22.5)))).toBe('proven');
    expect(await outcome('cold', tools(reads(21, -30)))).toBe('failed');
    expect(await outcome('cold', tools(reads(85)))).toBe('failed');
    expect(await outcome('cold', tools(reads()))).toBe('failed');
  });
});

describe('switches and probe', () => {
  const states = (input: string, ...seen: string[]) => ({
    M119: seen.map((state) => [`switch ${input}=${state}`, 'done']),
  });
  it('must be read open, closed and open again', async () => {
    const result = await runProof('switch-x', tools(states('x', 'open', 'open', 'closed', 'open')));
    expect(result).toEqual({ outcome: 'proven', evidence: ['x read open, then closed, then open'] });
  });
  it('a switch read the wrong way round is not proven by a press', async () => {
    let left = 6;
    const result = await runProof(
      'switch-x',
      tools(states('x', 'closed', 'open', 'closed'), { given: () => (left -= 1) < 0 }),
    );
    expect(result.outcome).toBe('failed');
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
      evidence: expect.arrayContaining(['stopped: homing did not meet its switch']) as string[],
    });
  });
  it('a step nobody knows fails and says so', async () => {
    expect(await outcome('dance', tools({}))).toBe('failed');
  });
});
