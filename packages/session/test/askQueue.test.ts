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
});
