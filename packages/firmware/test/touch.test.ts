import { beforeAll, describe, expect, it } from 'vitest';
import type { BoardState } from '@jolly/bench';
import type { Facts } from '@jolly/core/machine/facts';
import { buildFor, demoFacts, flashed, type Talk, talkTo } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { DISPLAY } from './witnesses/witness';

const compiler = compilerForTests();
let facts: Facts;
let state: BoardState;
beforeAll(async () => {
  facts = await demoFacts('plover', ...DISPLAY('vista-128'));
  state = flashed(facts, await buildFor(facts, compiler));
});

const FIRST: [number, number] = [0, 0];
const LAST: [number, number] = [7, 20];

/** A finger on a letter of the screen, for so long. */
function tap({ bench }: Talk, [row, column]: [number, number], seconds = 0.2): void {
  bench.touch({ x: (column + 0.5) / 21, y: (row + 0.5) / 8 });
  bench.advance(seconds);
  bench.touch(undefined);
  bench.advance(0.5);
}
const kept = (talk: Talk): string | undefined => talk.ask('M503').find((line) => line.startsWith('setting touch')); // prettier-ignore
const UNKNOWN = 'setting touch l=0 r=0 t=0 b=0';
const pixels = ({ bench }: Talk): string => {
  const look = bench.display();
  return look?.shows === 'pixel' ? look.bytes.join() : '';
};
async function started(store = state.store): Promise<Talk> {
  const talk = await talkTo({ facts, state: { ...state, store }, seed: 3 });
  talk.bench.advance(5);
  return talk;
}

describe('a display that is touched', () => {
  it('is unmarked after a first flash; two marks make it known, and the store keeps them', async () => {
    const talk = await started();
    expect(kept(talk)).toBe(UNKNOWN);
    const asks = pixels(talk);
    tap(talk, FIRST);
    expect(pixels(talk)).not.toBe(asks);
    tap(talk, LAST);
    const told = kept(talk);
    expect(told).not.toBe(UNKNOWN);
    talk.ask('M500', 30);
    talk.bench.advance(5);
    expect(kept(await started(talk.bench.store()))).toBe(told);
    expect(kept(await started())).toBe(UNKNOWN);
  });
  it('does not take two touches of one place for its marks, and begins again', async () => {
    const talk = await started();
    const asks = pixels(talk);
    tap(talk, FIRST);
    tap(talk, FIRST);
    expect([kept(talk), pixels(talk)]).toEqual([UNKNOWN, asks]);
  });
  it('a finger held for five seconds asks for the marks anew, a shorter one does not', async () => {
    const talk = await started();
    tap(talk, FIRST);
    tap(talk, LAST);
    const told = kept(talk);
    tap(talk, LAST, 4);
    expect(kept(talk)).toBe(told);
    tap(talk, LAST, 6);
    expect(kept(talk)).toBe(UNKNOWN);
  });
  it('nothing moves or heats until the marks are known, wherever it is touched', async () => {
    const talk = await started();
    tap(talk, FIRST);
    for (let row = 1; row < 8; row += 1) tap(talk, [row, 0]);
    expect(kept(talk)).toBe(UNKNOWN);
    expect(talk.bench.truth().duty).toMatchObject({ hotend: 0, bed: 0 });
    tap(talk, FIRST);
    // The same touches of a display that is known open the menu and preheat.
    tap(talk, LAST);
    for (const row of [0, 4, 1]) tap(talk, [row, 3]);
    expect(talk.bench.truth().duty).not.toMatchObject({ hotend: 0, bed: 0 });
  });
});
