import { describe, expect, it } from 'vitest';
import { outboxes } from '../src/outbox';
import { serverWatch, ServerGone } from '../src/presence';
import { previewing } from '../src/preview';
import { demoMachine } from '../../core/test/fixtures/demo';
import { inTurn, store } from '../src/store';
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
  it('tells what waits as it changes, keeps nothing that has gone, and is one for each name', () => {
    const storage = memory();
    const boxes = outboxes(storage);
    const waiting = boxes.waiting('plover');
    const counts: number[] = [];
    waiting.listen(() => counts.push(waiting.now()));
    const box = boxes.open<number>('machine:plover');
    box.put([1, 2]);
    expect(boxes.open('machine:plover').now()).toEqual([1, 2]);
    expect(storage.getItem('outbox:machine:plover')).toBe('[1,2]');
    box.put([]);
    expect(storage.getItem('outbox:machine:plover')).toBeNull();
    expect(counts).toEqual([0, 2, 0]);
    expect(boxes.waiting('over').now()).toBe(0);
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
  it('is looked after every ten seconds, looked for every second, and no more when nobody watches', async () => {
    const { reach, watch, planned, asked, presence } = watched(200, 'none', 200);
    const end = watch();
    const turn = async () => {
      planned.at(-1)?.run();
      await new Promise((resolve) => setImmediate(resolve));
    };
    await turn();
    expect(planned.map(({ ms }) => ms)).toEqual([10_000, 10_000]);
    await turn();
    expect(presence.now().here).toBe(false);
    expect(planned.at(-1)?.ms).toBe(1000);
    await turn();
    expect(presence.now().here).toBe(true);
    expect(planned.at(-1)?.ms).toBe(10_000);
    expect(new Set(asked)).toEqual(new Set(['/api/health']));
    end();
    const many = planned.length;
    await turn();
    await reach('/api/machines', {});
    expect(planned).toHaveLength(many);
  });
  it('is asked nothing by a hidden window, which looks again later; what was planned is taken back', async () => {
    const planned: (() => void)[] = [];
    const asked: string[] = [];
    let [visible, taken] = [false, 0];
    const { watch } = serverWatch({
      fetch: (path) => {
        asked.push(path);
        return Promise.resolve(new Response('{}'));
      },
      visible: () => visible,
      clock: () => 0,
      later: (_ms, run) => {
        planned.push(run);
        return () => (taken += 1);
      },
    });
    const end = watch();
    planned[0]?.();
    await new Promise((resolve) => setImmediate(resolve));
    expect([asked, planned.length]).toEqual([[], 2]);
    visible = true;
    planned[1]?.();
    await new Promise((resolve) => setImmediate(resolve));
    expect(asked).toEqual(['/api/health']);
    const before = taken;
    end();
    expect(taken).toBe(before + 1);
  });
  it('tells who listens only when it comes or goes', async () => {
    const { reach, presence } = watched(200, 'none', 503, 200, 200);
    let told = 0;
    const end = presence.listen(() => (told += 1));
    for (let nth = 0; nth < 5; nth += 1) await reach('/api/machines', {}).catch(() => undefined);
    expect(told).toBe(2);
    end();
  });
  it('is looked for more often while it is gone', async () => {
    const { reach, watch, planned } = watched('none');
    watch();
    await reach('/api/machines', {}).catch(() => undefined);
    const [calm, eager] = planned.map(({ ms }) => ms);
    expect(eager).toBeLessThan(calm ?? 0);
  });
});

describe('a preview that cannot be', () => {
  it('is not shown, and leaves the one before', async () => {
    const answers: (Awaited<ReturnType<Parameters<typeof previewing>[0]>>)[] = [
      { settings: [], findings: [] },
      { problems: [{ path: 'board', message: 'unknown' }] },
    ]; // prettier-ignore
    const { preview, show } = previewing(() => Promise.resolve(answers.shift()!));
    const machine = demoMachine('plover');
    await show(machine, 'a', [{ path: ['name'], value: 'A' }], false);
    const why = await show(machine, 'b', [{ path: ['board', 'id'], value: 'none' }], true);
    expect(why).toBe('It cannot be: board: unknown');
    expect(preview.now()).toMatchObject({ label: 'a', draft: false });
    expect(machine.name).toBe('Plover');
  });
});

describe('work in turn', () => {
  it('waits for the one before, also for one that fails', async () => {
    const turn = inTurn();
    const log: string[] = [];
    const first = turn(async () => {
      await new Promise((resolve) => setImmediate(resolve));
      log.push('first');
      throw new Error('no');
    });
    const second = turn(() => Promise.resolve(log.push('second')));
    await expect(first).rejects.toThrow('no');
    await second;
    expect(log).toEqual(['first', 'second']);
  });
  it('a value tells of changes alone, and not to who has gone', () => {
    const value = store(1);
    let told = 0;
    const end = value.listen(() => (told += 1));
    value.set(1);
    value.set(2);
    end();
    value.set(3);
    expect([told, value.now()]).toEqual([1, 3]);
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
