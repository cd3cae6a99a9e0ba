import { NO_ANSWER } from '@jolly/core/bringup/procedure';
import { describe, expect, it } from 'vitest';
import { askQueue } from '../src/askQueue';

describe('askQueue', () => {
  it('sends one question at a time and pairs each with its closing line', async () => {
    const sent: string[] = [];
    const queue = askQueue((line) => sent.push(line));
    const first = queue.ask('M105');
    const second = queue.ask('G1 X500');
    expect(sent).toEqual(['M105']);
    queue.hear('heat body=bed now=21.0');
    queue.hear('done');
    expect(await first).toEqual({ lines: ['heat body=bed now=21.0', 'done'] });
    expect(sent).toEqual(['M105', 'G1 X500']);
    queue.hear('error: outside the travel');
    expect(await second).toEqual({
      lines: ['error: outside the travel'],
      problem: 'error: outside the travel',
    });
  });
  it('leaves out of the tape what answers a quiet question, and what goes wrong with it not', () => {
    const queue = askQueue(() => undefined);
    void queue.ask('M105');
    expect([queue.hear('heat body=bed now=21.0'), queue.hear('done')]).toEqual([false, false]);
    void queue.ask('M105', true);
    expect([queue.hear('heat body=bed now=21.0'), queue.hear('done')]).toEqual([true, true]);
    void queue.ask('G1 X900', true);
    expect(queue.hear('error: outside the travel')).toBe(false);
  });
  it('a stop ends what runs, and a power-off what waits', async () => {
    const sent: string[] = [];
    const queue = askQueue((line) => sent.push(line));
    const homing = queue.ask('G28');
    const waiting = queue.ask('M114');
    queue.hear('stopped: asked by the host');
    // Nothing is asked further before it is known whose answer comes next.
    expect(sent).toEqual(['G28', 'M115']);
    queue.hear('lantern name="Plover"');
    queue.hear('done');
    expect((await homing).problem).toBe('stopped: asked by the host');
    expect(sent.at(-1)).toBe('M114');
    queue.drop('the power was switched off');
    expect((await waiting).problem).toBe('the power was switched off');
    queue.hear('done');
  });
  it.each([
    ['a command that ran says nothing more', []],
    ['one that had not been read is refused', ['error: asleep since the stop; send wake, then home']],
    ['a question that may be asked asleep is answered', ['heat body=bed now=21.0', 'done']],
  ])('after a stop each answer is that of its own question: %s', async (_, rest) => {
    const queue = askQueue(() => undefined);
    const first = queue.ask('M105');
    const second = queue.ask('M119');
    for (const line of [
      'stopped: bed does not follow its heater',
      ...rest,
      'lantern name="x"',
      'done',
      'switch x=open',
      'done',
    ])
      queue.hear(line);
    expect((await first).problem).toBe('stopped: bed does not follow its heater');
    expect((await second).lines).toEqual(['switch x=open', 'done']);
  });
  it('what came before the board says who it is belongs to nobody, and the stop is everybody’s', async () => {
    const queue = askQueue(() => undefined);
    const asked = queue.ask('G28', true);
    queue.hear('home axis=x off=0.1');
    expect(queue.hear('stopped: asked by the host')).toBe(false);
    // The end of the command that ran: neither an answer nor the end of one.
    expect(queue.hear('done')).toBe(true);
    expect(queue.idle()).toBe(false);
    expect(queue.hear('error: asleep since the stop')).toBe(true);
    expect(queue.hear('lantern name="x"')).toBe(true);
    expect(queue.hear('switch x=open')).toBe(true);
    expect(queue.idle()).toBe(false);
    expect(queue.hear('done', 12.5)).toBe(false);
    expect(queue.idle()).toBe(true);
    expect(await asked).toEqual({
      lines: ['home axis=x off=0.1', 'stopped: asked by the host'],
      problem: 'stopped: asked by the host',
      atS: 12.5,
    });
  });
  it('tells the lines so far as each comes in, with the last of them; what comes by itself is none', async () => {
    const told: string[][] = [];
    const queue = askQueue(() => undefined);
    const asked = queue.ask('repeat n=2', false, (lines) => told.push([...lines]));
    queue.hear('repeat touch=1');
    expect(queue.hear('meanwhile heat body=bed now=20')).toBe(true);
    queue.hear('repeat touch=2');
    queue.hear('done', 3);
    expect(told).toEqual([
      ['repeat touch=1'],
      ['repeat touch=1', 'repeat touch=2'],
      ['repeat touch=1', 'repeat touch=2', 'done'],
    ]);
    expect(await asked).toEqual({ lines: ['repeat touch=1', 'repeat touch=2', 'done'], atS: 3 });
  });
  it('a line that nobody asked for goes to the tape and ends nothing', () => {
    const sent: [string, boolean][] = [];
    const queue = askQueue((line, quiet) => sent.push([line, quiet]));
    expect([queue.idle(), queue.hear('awake store=kept'), queue.hear('done')]).toEqual([true, false, false]);
    void queue.ask('M105', true);
    void queue.ask('M114');
    expect(queue.idle()).toBe(false);
    queue.hear('done');
    expect(sent).toEqual([
      ['M105', true],
      ['M114', false],
    ]);
  });
  it('the question after a stop is asked quietly; a power-off gives what was heard so far', async () => {
    const sent: [string, boolean][] = [];
    const queue = askQueue((line, quiet) => sent.push([line, quiet]));
    const asked = queue.ask('G28');
    queue.hear('home axis=x off=0');
    queue.hear('stopped: x');
    expect(sent.at(-1)).toEqual(['M115', true]);
    queue.drop('the power was switched off');
    expect(await asked).toEqual({ lines: ['home axis=x off=0', 'stopped: x'], problem: 'the power was switched off' });
    // A queue that was emptied takes the next question at once.
    void queue.ask('M105');
    expect(sent.at(-1)).toEqual(['M105', false]);
  }); // prettier-ignore
  it('a board that never answered is waited for a while, for further lines less', async () => {
    const sent: string[] = [];
    const queue = askQueue((line) => sent.push(line));
    expect(queue.passed(3)).toBe(false);
    const [first, second] = [queue.ask('state', true), queue.ask('M115')];
    expect([10, 12, 14.9].map((s) => queue.passed(s))).toEqual([false, false, false]);
    expect(queue.passed(15)).toBe(true);
    expect(await first).toEqual({ lines: [], problem: NO_ANSWER, atS: 15 });
    expect(sent).toEqual(['state', 'M115']);
    queue.hear('\u00f3\u0081\u00b7');
    expect([16, 16.9].map((s) => queue.passed(s))).toEqual([false, false]);
    expect(queue.passed(17)).toBe(true);
    expect(await second).toMatchObject({ problem: NO_ANSWER, noise: true });
    expect(queue.idle()).toBe(true);
  });
  it.each(['done', 'error: unknown', 'meanwhile state doing=waiting'])('one that said %s is waited for as long as it takes', (line) => {
    const queue = askQueue(() => undefined);
    void queue.ask('M109 S200');
    queue.hear(line);
    void queue.ask('M105');
    expect([0, 100, 10_000].map((s) => queue.passed(s))).toEqual([false, false, false]);
    expect(queue.idle()).toBe(false);
  }); // prettier-ignore
});
