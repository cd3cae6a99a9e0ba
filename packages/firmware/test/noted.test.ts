import { cardBlocks } from '@jolly/bench';
import { NOTED_EVERY_S, noteReaches } from '@jolly/core/kit/storeRoom';
import { SLOT_BYTES, SLOTS } from '@jolly/core/kit/storedSettings';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { expect, it } from 'vitest';
import { own, type Talk, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

/** Well within a print from a card that is never written, on a board whose store has so many bytes. */
async function printing(storeBytes: number): Promise<Talk> {
  const { facts, state } = await plover.built(own('resume.on', true), own('card.locked', true));
  const bytes = new TextEncoder().encode(testPrint(facts, derive(facts), 8));
  const card = cardBlocks([{ name: 'TRAY.GCO', bytes }]);
  const talk = await talkTo({
    facts,
    state: { ...state, store: new Uint8Array(storeBytes).fill(0xff) },
    card,
  });
  talk.ask('card print n=1');
  while (talk.bench.truth().position.e < 60) talk.bench.advance(0.5);
  return talk;
}
const note = ({ bench }: Talk) =>
  bench
    .store()
    .slice(SLOTS * SLOT_BYTES)
    .join();

it('a place is noted in a store that has room for it to the last byte, within a layer no more often than told', async () => {
  const talk = await printing(noteReaches(false));
  const began: number[] = [];
  for (let was = note(talk), step = 0; step < 240; step += 1) {
    talk.bench.advance(0.25);
    const now = note(talk);
    const last = began.at(-1) ?? -Infinity;
    // Its bytes are written one after the other.
    if (now !== was && talk.bench.nowS() - last > 1) began.push(talk.bench.nowS());
    was = now;
  }
  const gaps = began.slice(1).map((at, index) => at - (began[index] ?? 0));
  expect(Math.min(...gaps)).toBeGreaterThan(NOTED_EVERY_S - 1);
  // What was planned ahead is made first.
  expect(Math.max(...gaps)).toBeLessThan(2 * NOTED_EVERY_S);
});

it('in a store of one byte less nothing is noted', async () => {
  expect(note(await printing(noteReaches(false) - 1))).toMatch(/^(255,?)+$/);
});
