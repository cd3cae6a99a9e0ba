import { describe, expect, it } from 'vitest';
import { readStore, storedSettings } from '@jolly/core/kit/storedSettings';
import { talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();
/** What the product reads in a store, without the firmware. */
const readIn = (store: Uint8Array) => readStore(store, plover.facts().kit);
const steps = (report: string[]) => /M92 X([\d.]+)/.exec(report.join('\n'))?.[1];

describe('two slots take turns', () => {
  it('power lost at any moment of a save leaves one of the two states whole', async () => {
    const first = await plover.powered();
    first.ask('M92 X111');
    first.ask('M500');
    const kept = first.bench.store();
    const seen = new Set<string | undefined>();
    for (let ms = 0; ms < 300; ms += 4) {
      const cut = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: kept } });
      cut.ask('M92 X222');
      cut.bench.send('M500');
      cut.bench.advance(ms / 1000);
      const after = await talkTo({
        facts: plover.facts(),
        state: { ...plover.state(), store: cut.bench.store() },
      });
      expect(after.heard[0]).toBe('awake store=loaded');
      const found = steps(after.ask('M503'));
      expect(['111.0000', '222.0000']).toContain(found);
      expect(readIn(cut.bench.store())['steps.x']).toBe(Number(found));
      seen.add(found);
    }
    expect([...seen].sort()).toEqual(['111.0000', '222.0000']);
  });
  it('the newer of two whole ones counts, over many saves', async () => {
    let store = plover.state().store;
    for (let turn = 1; turn <= 5; turn += 1) {
      const talk = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store } });
      talk.ask(`M92 X${100 + turn}`);
      expect(talk.ask('M500').at(-1)).toBe('done');
      store = talk.bench.store();
    }
    const last = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store } });
    expect(steps(last.ask('M503'))).toBe('105.0000');
    expect(readIn(store)['steps.x']).toBe(105);
    expect(Object.keys(readIn(store)).length).toBe(storedSettings(plover.facts().kit).length);
  });
  it('any single flipped bit is noticed: the older state, or none', async () => {
    const first = await plover.powered();
    first.ask('M92 X111');
    first.ask('M500');
    const store = first.bench.store();
    const length = store.findLastIndex((byte) => byte !== 0xff) + 1;
    for (let at = 0; at < length; at += 1) {
      const hurt = Uint8Array.from(store);
      hurt[at] = (hurt[at] ?? 0) ^ (1 << (at % 8));
      const talk = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: hurt } });
      expect(talk.heard[0]).toMatch(/^awake store=(fresh|damaged|other-layout)$/);
      expect(steps(talk.ask('M503'))).toBe('100.0000');
      expect(readIn(hurt)).toEqual({});
    }
  });
});
