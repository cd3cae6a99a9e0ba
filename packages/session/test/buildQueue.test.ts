import type { Build } from '@jolly/contract/endpoints/builds';
import { describe, expect, it } from 'vitest';
import { buildQueue } from '../src/buildQueue';

const machines = ['plover', 'dunlin', 'sandpiper'].map((id) => ({ id, name: id }));

/** A server whose builds of a machine go through the states given for it, one at each look. */
function server(states: Record<string, (Build['state'] | 'refused')[]>) {
  const log: string[] = [];
  const built: string[] = [];
  const next = (id: string): Promise<Build> => {
    const state = states[id]?.shift() ?? 'done';
    log.push(`${id} ${state}`);
    return state === 'refused'
      ? Promise.reject(new Error('a stop stands open'))
      : Promise.resolve({ id, state, ...(state === 'failed' && { failed: { file: 'a.c', line: 1, message: 'no room' } }) } as unknown as Build); // prettier-ignore
  };
  const queue = buildQueue({
    client: { startBuild: ({ id }) => next(id), build: ({ id }) => next(id) },
    moment: () => Promise.resolve(void log.push('waits')),
    built: () => void built.push('built'),
  });
  return { queue, log, built };
}

describe('builds of several machines', () => {
  it('go one after another, each to its end, and say what became of it', async () => {
    const { queue, log, built } = server({
      plover: ['running', 'running', 'done'],
      dunlin: ['failed'],
      sandpiper: ['refused'],
    });
    await queue.run(machines);
    expect(log).toEqual([
      'plover running', 'waits', 'plover running', 'waits', 'plover done', 'dunlin failed', 'sandpiper refused',
    ]); // prettier-ignore
    expect(queue.rows.now().map(({ id, state, why }) => [id, state, why])).toEqual([
      ['plover', 'done', undefined],
      ['dunlin', 'failed', 'no room'],
      ['sandpiper', 'failed', 'a stop stands open'],
    ]);
    expect(built).toHaveLength(3);
  });

  it('one that was cancelled has not been built', async () => {
    const { queue } = server({ plover: ['running', 'cancelled'] });
    await queue.run(machines.slice(0, 1));
    expect(queue.rows.now()).toMatchObject([{ state: 'failed', why: 'it was cancelled' }]);
  });

  it('what has not begun can be taken out, and what builds goes on', async () => {
    const { queue, log } = server({});
    const seen: string[][] = [];
    queue.rows.listen(() => seen.push(queue.rows.now().map(({ state }) => state)));
    const running = queue.run(machines);
    queue.drop();
    await running;
    expect(log).toEqual(['plover done']);
    expect(queue.rows.now().map(({ state }) => state)).toEqual(['done', 'dropped', 'dropped']);
    expect(seen.slice(0, 3)).toEqual([
      ['waits', 'waits', 'waits'],
      ['builds', 'waits', 'waits'],
      ['builds', 'dropped', 'dropped'],
    ]);
  });
});
