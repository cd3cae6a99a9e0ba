import { Refusal } from '@jolly/contract/refusal';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { longWork, type Worked } from '../src/longWork';
import { outboxes } from '../src/outbox';
import { ServerGone } from '../src/presence';
import { memory } from './fixtures/twoWindows';

interface Text extends Worked {
  text: string;
}
type Answer = 'kept' | 'gone' | 'refused' | 'in trouble' | 'kept, and gone' | 'kept, and nobody hears it';

/** A server that refuses what is stale, and windows over one storage: each may be left in the midst of it. */
function desk(...answers: Answer[]) {
  const storage = memory();
  let there: Text = { version: 1, changedAt: 'first', text: '' };
  let open = Promise.resolve();
  const write = (text: string) => (there = { version: there.version + 1, changedAt: text, text });
  async function save({ version, text }: Text): Promise<Worked> {
    await open;
    const answer = answers.shift() ?? 'kept';
    if (answer === 'gone') throw new ServerGone();
    if (answer === 'in trouble') throw new Refusal('disk-full', 'there is no room left');
    if (answer === 'refused') throw new Refusal('bad-value', 'too long');
    if (version !== there.version) throw new Refusal('stale', 'it was changed elsewhere');
    write(text);
    if (answer === 'kept, and gone') throw new ServerGone();
    if (answer === 'kept, and nobody hears it') return new Promise(() => undefined);
    return { version: there.version, changedAt: there.changedAt };
  }
  return {
    there: () => there,
    /** Another window writes. */
    write,
    /** Holds every save until the returned function is called. */
    slow() {
      let go: () => void = () => undefined;
      open = new Promise((resolve) => (go = resolve));
      return () => go();
    },
    async enter() {
      let shown: Text | undefined;
      const outbox = outboxes(storage).open<Text>('text:1');
      const work = longWork<Text>({
        read: () => Promise.resolve(there),
        save,
        outbox,
        shown: {
          now: () => shown,
          show: (text) => void (shown = text),
          reload: async () => void (shown = await work.read()),
        },
        kept: () => undefined,
      });
      shown = await work.read();
      return {
        ...work,
        outbox,
        says: () => certain(shown, 'it was read').text,
        type: (text: string) => work.change((now) => ({ ...now, text: now.text + text })),
      };
    },
  };
}

describe('what is kept with every change', () => {
  it('is shown at once, and the newest of it is kept behind what is on its way', async () => {
    const table = desk();
    const { type, says, saved, outbox, isBusy } = await table.enter();
    const go = table.slow();
    const all = ['a', 'b', 'c'].map(type);
    expect([says(), saved.now(), isBusy()]).toEqual(['abc', 'saving', true]);
    go();
    expect(await Promise.all(all)).toEqual([undefined, undefined, undefined]);
    expect([table.there().text, saved.now(), outbox.now(), isBusy()]).toEqual(['abc', 'saved', [], false]);
  });
  it('is not called saved while a later change waits behind it', async () => {
    const table = desk();
    const { type, saved, outbox } = await table.enter();
    const said: [unknown, number][] = [];
    saved.listen(() => said.push([saved.now(), outbox.now().length]));
    const go = table.slow();
    const all = ['a', 'b'].map(type);
    go();
    await Promise.all(all);
    expect(said.filter(([what, waits]) => what === 'saved' && waits > 0)).toEqual([]);
    expect([saved.now(), said.length > 1]).toEqual(['saved', true]);
  });
  it('what is read while a change is on its way does not take its place', async () => {
    const table = desk();
    const { type, read } = await table.enter();
    const go = table.slow();
    const typed = type('a');
    expect((await read()).text).toBe('a');
    go();
    await typed;
    expect((await read()).text).toBe('a');
  });
  it('a refused change is given up and said; the next one is kept', async () => {
    const table = desk('refused');
    const { type, says, saved, outbox } = await table.enter();
    expect(await type('a')).toBe('too long');
    expect([says(), saved.now(), outbox.now()]).toEqual(['', { refused: 'too long' }, []]);
    expect(await type('b')).toBeUndefined();
    expect([table.there().text, saved.now()]).toEqual(['b', 'saved']);
  });
  it('waits while the server is gone, with what is typed then, and is sent once', async () => {
    const table = desk('gone', 'gone');
    const { type, says, send, saved } = await table.enter();
    expect(await type('a')).toContain('is sent when it is back');
    await type('b');
    expect([says(), table.there().text]).toEqual(['ab', '']);
    await send();
    await send();
    expect([table.there(), saved.now()]).toEqual([expect.objectContaining({ text: 'ab', version: 2 }), 'saved']);
  }); // prettier-ignore
  it('what arrived although the server was gone is no change of another: what was typed since goes over it', async () => {
    const table = desk('kept, and gone', 'gone', 'kept, and gone');
    const { type, says, saved, outbox } = await table.enter();
    await type('a');
    await type('b');
    await type('c');
    expect(table.there().text).toBe('abc');
    expect(await type('d')).toBeUndefined();
    expect([says(), table.there(), saved.now(), outbox.now()]).toEqual(['abcd', expect.objectContaining({ text: 'abcd', version: 4 }), 'saved', []]);
  }); // prettier-ignore
  it('what another window kept in between is told, and stays', async () => {
    const table = desk('gone');
    const { type, says, saved } = await table.enter();
    await type('a');
    table.write('other');
    expect(await type('b')).toContain('changed elsewhere');
    expect([says(), table.there().text, saved.now()]).toEqual(['other', 'other', { refused: expect.stringContaining('say it again') }]); // prettier-ignore
  });
  it('a server in trouble of its own has judged nothing: it waits, and why is said', async () => {
    const table = desk('in trouble');
    const { type, says, outbox } = await table.enter();
    expect(await type('a')).toBe('there is no room left');
    expect([says(), outbox.now().length]).toEqual(['a', 1]);
    expect(await type('b')).toBeUndefined();
    expect(table.there().text).toBe('ab');
  });
});

describe('a window that is left before its change was kept', () => {
  it.each<[string, Answer[], string]>([
    ['not sent', ['gone'], 'a'],
    ['kept, and its answer not heard', ['kept, and nobody hears it'], 'a'],
  ])('%s: the next one goes on from it', async (_name, answers, text) => {
    const table = desk(...answers);
    const first = await table.enter();
    void first.type('a');
    await Promise.resolve();
    await Promise.race([first.settled(), new Promise((resolve) => setImmediate(resolve))]);
    const next = await table.enter();
    expect([next.says(), table.there().text, next.outbox.now(), next.saved.now()]).toEqual([text, text, [], 'saved']);
  }); // prettier-ignore
  it('what was typed behind a change whose answer was not heard is kept too', async () => {
    const table = desk('kept, and nobody hears it');
    const first = await table.enter();
    void first.type('a');
    await new Promise((resolve) => setImmediate(resolve));
    void first.type('b');
    const next = await table.enter();
    expect([next.says(), table.there().text, next.outbox.now()]).toEqual(['ab', 'ab', []]);
  });
  it('and what it had on its way arrives only while the next one goes on: both are kept', async () => {
    const table = desk('kept, and nobody hears it');
    const first = await table.enter();
    const go = table.slow();
    void first.type('a');
    await new Promise((resolve) => setImmediate(resolve));
    void first.type('b');
    const entering = table.enter();
    await new Promise((resolve) => setImmediate(resolve));
    go();
    const next = await entering;
    expect([next.says(), table.there().text, next.outbox.now(), next.saved.now()]).toEqual(['ab', 'ab', [], 'saved']);
  }); // prettier-ignore
  it('and another window wrote meanwhile: what that wrote stays, and it is said', async () => {
    const table = desk('gone');
    const first = await table.enter();
    await first.type('a');
    table.write('other');
    const next = await table.enter();
    expect([next.says(), table.there().text, next.outbox.now()]).toEqual(['other', 'other', []]);
    expect(next.saved.now()).toEqual({ refused: expect.stringContaining('changed elsewhere') });
  });
  it('and the server is still gone: it is shown, and waits', async () => {
    const table = desk('gone', 'gone');
    await (await table.enter()).type('a');
    const next = await table.enter();
    expect([next.says(), table.there().text]).toEqual(['a', '']);
    await next.send();
    expect(table.there().text).toBe('a');
  });
  it('and it is refused now: what is there is shown', async () => {
    const table = desk('gone', 'refused');
    await (await table.enter()).type('a');
    const next = await table.enter();
    expect([next.says(), next.outbox.now(), next.saved.now()]).toEqual(['', [], { refused: 'too long' }]);
  });
});
