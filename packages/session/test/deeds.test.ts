import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Deed, deedsOf, type JobParts, jobTurned } from '../src/deeds';
import { memory } from './fixtures/twoWindows';

const deed = (label: string): Deed => ({ kind: 'machine', label });
const labels = (list: readonly Deed[]) => list.map(({ label }) => label);
const tick = (id: string) => ({ id, kind: 'step', subject: id, title: id, at: '' }) as unknown as JobParts['done'][number]; // prettier-ignore
const job = (ids: string[], more: Partial<JobParts> = {}): JobParts => ({
  title: 'A job',
  changes: [],
  taken: [],
  done: ids.map(tick),
  ...more,
});
const ticked = ({ done }: JobParts) => done.map(({ id }) => id);

describe('what was done in a window', () => {
  it('goes back in order, and forth again, over a reload; something new ends what could be done again', () => {
    const storage = memory();
    const deeds = deedsOf('plover', storage);
    for (const label of ['a', 'b', 'c']) deeds.did(deed(label));
    deeds.goes('undo');
    deeds.goes('undo');
    expect([labels(deeds.now().done), labels(deeds.now().undone)]).toEqual([['a'], ['c', 'b']]);
    const again = deedsOf('plover', storage);
    again.goes('redo');
    expect([labels(again.now().done), labels(again.now().undone)]).toEqual([['a', 'b'], ['c']]);
    again.did(deed('d'));
    expect([labels(again.now().done), labels(again.now().undone)]).toEqual([['a', 'b', 'd'], []]);
    expect(deedsOf('dunlin', storage).now()).toEqual({ done: [], undone: [] });
  });

  it('what is being done is waited for, however it ends, and what is begun meanwhile too', async () => {
    const deeds = deedsOf('plover', memory());
    const ends: (() => void)[] = [];
    const doing = (label: string) =>
      deeds.during(new Promise<void>((end) => ends.push(end)).then(() => deeds.did(deed(label))));
    await deeds.settled();
    void doing('a');
    let seen: string[] | undefined;
    const looked = deeds.settled().then(() => (seen = labels(deeds.now().done)));
    void doing('b');
    deeds.during(Promise.reject(new Error('refused'))).catch(() => undefined);
    ends[0]?.();
    await new Promise((resolve) => setImmediate(resolve));
    expect(seen).toBeUndefined();
    ends[1]?.();
    await looked;
    expect(seen).toEqual(['a', 'b']);
  });

  it('those of a job go with it', () => {
    const deeds = deedsOf('plover', memory());
    const of = (label: string, at: number): Deed => ({ kind: 'job', job: at, label, before: job([]), after: job(['a']) }); // prettier-ignore
    for (const one of [deed('a'), of('b', 1), deed('c'), of('d', 2)]) deeds.did(one);
    deeds.goes('undo');
    deeds.onlyOf(2);
    expect([labels(deeds.now().done), labels(deeds.now().undone)]).toEqual([['a', 'c'], ['d']]);
    const before = deeds.now();
    deeds.onlyOf(2);
    expect(deeds.now()).toBe(before);
    deeds.onlyOf(undefined);
    expect([labels(deeds.now().done), labels(deeds.now().undone)]).toEqual([['a', 'c'], []]);
  });

  it('nothing goes back that is not there, fifty are kept, and what is damaged is nothing', () => {
    const storage = memory();
    const deeds = deedsOf('plover', storage);
    deeds.goes('undo');
    deeds.goes('redo');
    expect(deeds.now()).toEqual({ done: [], undone: [] });
    for (let nth = 0; nth < 60; nth += 1) deeds.did(deed(String(nth)));
    expect([deeds.now().done.length, deeds.now().done[0]?.label]).toEqual([50, '10']);
    storage.setItem('deeds:plover', '{half');
    expect(deedsOf('plover', storage).now().done).toEqual([]);
    const full = { ...memory(), setItem: () => { throw new Error('no room'); } }; // prettier-ignore
    const kept = deedsOf('plover', full);
    kept.did(deed('x'));
    expect(labels(kept.now().done)).toEqual(['x']);
  });
});

describe('a job turned back', () => {
  it('loses the tick that was made, gets back the one that was taken away, and keeps those of others', () => {
    const made = { before: job(['a']), after: job(['a', 'b']) };
    expect(ticked(jobTurned(job(['a', 'b', 'other']), made))).toEqual(['a', 'other']);
    const taken = { before: job(['a', 'b']), after: job(['a']) };
    expect(ticked(jobTurned(job(['a', 'other']), taken))).toEqual(['a', 'other', 'b']);
    // Somebody ticked it again meanwhile.
    expect(ticked(jobTurned(job(['a', 'b']), taken))).toEqual(['a', 'b']);
  });

  it('title and changes go back only where they stand as the deed left them', () => {
    const deed = { before: job([], { title: 'Old' }), after: job([], { title: 'New', taken: ['x'] }) };
    expect(jobTurned(job([], { title: 'New', taken: ['x'] }), deed)).toMatchObject({ title: 'Old', taken: [] });
    expect(jobTurned(job([], { title: 'Newer', taken: ['x'] }), deed)).toMatchObject({ title: 'Newer', taken: [] });
  }); // prettier-ignore

  it('back and forth is where it was, whatever was ticked', () => {
    const some = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'));
    fc.assert(
      fc.property(some, some, (one, other) => {
        const deed = { before: job(one), after: job(other) };
        const back = jobTurned(deed.after, deed);
        expect(ticked(back).sort()).toEqual([...one].sort());
        expect(ticked(jobTurned(back, { before: deed.after, after: deed.before })).sort()).toEqual([...other].sort());
      }),
    );
  }); // prettier-ignore
});
