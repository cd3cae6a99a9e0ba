import { NO_ANSWER } from '@jolly/core/bringup/procedure';
import { describe, expect, it } from 'vitest';
import { askQueue, LOOKS } from '../src/askQueue';

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
  /** A queue whose clock is looked at twenty times a second, and what it sends. */
  function clocked() {
    const sent: string[] = [];
    const queue = askQueue((line) => sent.push(line));
    let s = 0;
    const until = (end: number) => {
      for (; s < end; s = Math.round(20 * s + 1) / 20) queue.passed(s);
    };
    return { queue, sent, until, hear: (...lines: string[]) => lines.forEach((line) => queue.hear(line, s)) };
  }
  it('a board that never answered is waited for a while, for further lines less', async () => {
    const { queue, sent, until, hear } = clocked();
    const [first, second] = [queue.ask('state', true), queue.ask('M115')];
    until(5);
    expect(queue.silent()).toBeUndefined();
    until(5.5);
    expect(queue.silent()).toBe('from the start');
    expect(await first).toEqual({ lines: [], problem: NO_ANSWER, atS: 5 });
    hear('\u00f3\u0081\u00b7');
    until(7);
    expect(await second).toMatchObject({ problem: NO_ANSWER, noise: true });
    expect(queue.idle()).toBe(true);
    // Nothing of what was asked is sent any more: only who it is, again and again.
    until(20);
    expect(sent.slice(0, 2)).toEqual(['state', 'M115']);
    expect(new Set(sent.slice(1))).toEqual(new Set(['M115']));
  });
  it.each(['done', 'error: unknown', 'meanwhile state doing=waiting'])('one that said %s is waited for while it says once a second that it is at work', (line) => {
    const { queue, until, hear } = clocked();
    void queue.ask('M109 S200');
    hear(line);
    void queue.ask('M105');
    for (let s = 1; s < 300; s += 9) {
      until(s);
      hear('meanwhile state doing=waiting');
    }
    expect(queue.idle()).toBe(false);
    expect(queue.silent()).toBeUndefined();
  }); // prettier-ignore
  it('one that falls silent is given up after ten seconds, and every line after that soon', async () => {
    const { queue, sent, until, hear } = clocked();
    const warm = queue.ask('M109 S200');
    hear('meanwhile heat body=hotend now=150');
    until(9);
    expect(queue.silent()).toBeUndefined();
    until(11);
    expect(queue.silent()).toBe('any more');
    expect(await warm).toMatchObject({ problem: NO_ANSWER });
    const off = queue.ask('M104 S0');
    until(13);
    expect((await off).problem).toBe(NO_ANSWER);
    expect(sent).not.toContain('M104 S0');
  });
  it('one that comes back answers no question with what it was sent before', async () => {
    const { queue, sent, until, hear } = clocked();
    void queue.ask('M105');
    hear('done');
    void queue.ask('G28');
    until(12);
    expect(queue.silent()).toBe('any more');
    // Two that wait meanwhile; then all that piled up is answered at once.
    hear('home axis=x', 'done', 'lantern name="Plover"', 'done', 'lantern name="Plover"');
    const asked = queue.ask('M114');
    hear('done');
    until(12.75);
    // It is heard again, and asked nothing yet.
    expect(queue.silent()).toBeUndefined();
    expect(sent).not.toContain('M114');
    until(14);
    expect(sent.at(-1)).toBe('M114');
    hear('at x=1', 'done');
    expect(await asked).toMatchObject({ lines: ['at x=1', 'done'] });
  });
  it('what is at work as it comes back is not asked over and over', () => {
    const { queue, sent, until, hear } = clocked();
    void queue.ask('M105');
    hear('done');
    void queue.ask('G28');
    until(12);
    const asked = sent.length;
    void queue.ask('M105');
    for (let s = 13; s < 60; s++) {
      hear('meanwhile state doing=moving');
      until(s);
      expect(queue.silent()).toBeUndefined();
    }
    expect(sent.length).toBe(asked);
    expect(queue.idle()).toBe(false);
    hear('stopped: asked to');
    until(64);
    expect(sent.length).toBeGreaterThan(asked);
  });
  it('where time is looked at seldom, an answer that is under way is waited for', () => {
    const queue = askQueue(() => undefined);
    void queue.ask('M105');
    queue.hear('done', 1);
    void queue.ask('M105');
    for (let look = 1; look < LOOKS; look += 1) queue.passed(60 * look);
    expect(queue.silent()).toBeUndefined();
    queue.passed(60 * LOOKS);
    expect(queue.silent()).toBe('any more');
  });
});
