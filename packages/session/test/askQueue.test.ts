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
  it('a stop ends what runs, and a power-off what waits', async () => {
    const queue = askQueue(() => undefined);
    const homing = queue.ask('G28');
    const waiting = queue.ask('M114');
    queue.hear('stopped: asked by the host');
    expect((await homing).problem).toBe('stopped: asked by the host');
    queue.drop('the power was switched off');
    expect((await waiting).problem).toBe('the power was switched off');
    queue.hear('done');
  });
});
