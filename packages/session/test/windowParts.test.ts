import { describe, expect, it } from 'vitest';
import { outboxes } from '../src/outbox';
import { serverWatch, ServerGone } from '../src/presence';
import { previewing } from '../src/preview';
import { demoMachine } from '../../core/test/fixtures/demo';
import { memory } from './fixtures/twoWindows';

describe('an outbox', () => {
  it('counts what waits for a machine in all of its boxes, also what a reload found', () => {
    const storage = memory();
    const first = outboxes(storage);
    first.open('machine:plover').put([1, 2]);
    first.open('job:plover').put(['a']);
    first.open('job:dunlin').put(['b']);
    expect(first.waiting('plover').now()).toBe(3);
    const again = outboxes(storage);
    again.open('machine:plover');
    expect(again.waiting('plover').now()).toBe(2);
  });
  it('goes on in the window when the browser has no room, and reads what is damaged as nothing', () => {
    const full = { ...memory(), setItem: () => { throw new Error('no room'); } }; // prettier-ignore
    const outbox = outboxes(full).open<number>('machine:plover');
    outbox.put([1]);
    expect(outbox.now()).toEqual([1]);
    const damaged = memory();
    damaged.setItem('outbox:machine:plover', '{"half');
    expect(outboxes(damaged).open('machine:plover').now()).toEqual([]);
    damaged.setItem('outbox:job:plover', '"no list"');
    expect(outboxes(damaged).open('job:plover').now()).toEqual([]);
  });
});

describe('the server', () => {
  function watched(...statuses: (number | 'none')[]) {
    const planned: { ms: number; run: () => void }[] = [];
    const asked: string[] = [];
    const watch = serverWatch({
      fetch: (path) => {
        asked.push(path);
        const status = statuses.shift() ?? 200;
        return status === 'none'
          ? Promise.reject(new Error('refused'))
          : Promise.resolve(new Response('{}', { status }));
      },
      visible: () => true,
      clock: () => 5000,
      later: (ms, run) => {
        planned.push({ ms, run });
        return () => undefined;
      },
    });
    return { ...watch, planned, asked };
  }
  it.each(['none', 502, 503, 504] as const)('is gone when %s comes back, since then', async (status) => {
    const { reach, presence } = watched(status);
    await expect(reach('/api/machines', {})).rejects.toBeInstanceOf(ServerGone);
    expect(presence.now()).toEqual({ here: false, since: 5000 });
    await reach('/api/machines', {});
    expect(presence.now()).toEqual({ here: true });
  });
  it.each([404, 409, 500])('is there when it refuses with %s', async (status) => {
    const { reach, presence } = watched(status);
    await reach('/api/machines', {});
    expect(presence.now().here).toBe(true);
  });
  it('is looked for more often while it is gone', async () => {
    const { reach, watch, planned } = watched('none');
    watch();
    await reach('/api/machines', {}).catch(() => undefined);
    const [calm, eager] = planned.map(({ ms }) => ms);
    expect(eager).toBeLessThan(calm ?? 0);
  });
});

describe('a preview', () => {
  it('shows the newest only, however late an older one is computed', async () => {
    const waiting: (() => void)[] = [];
    const { preview, show, drop } = previewing(
      () => new Promise((resolve) => waiting.push(() => resolve({ settings: [], findings: [] }))),
    );
    const machine = demoMachine('plover');
    const name = (value: string) => [{ path: ['name'], value }];
    const [first, second] = [show(machine, 'a', name('A'), true), show(machine, 'b', name('B'), true)];
    waiting[1]?.();
    await second;
    waiting[0]?.();
    await first;
    expect(preview.now()).toMatchObject({ label: 'b', machine: { name: 'B' } });
    const third = show(machine, 'c', name('C'), false);
    drop();
    waiting[2]?.();
    await third;
    expect(preview.now()).toBeUndefined();
  });
});
