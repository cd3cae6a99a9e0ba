import { describe, expect, it } from 'vitest';
import { own, type Talk, workshop } from './fixtures/builtMachine';
import { BOARD_FAN } from './witnesses/witness';

const plover = workshop();
const turns = ({ bench }: Talk) => bench.truth().fans['board-fan'];
/** How long the board's fan goes on, s. */
function lasts(talk: Talk): number {
  const from = talk.bench.nowS();
  while (turns(talk) !== 0 && talk.bench.nowS() - from < 100) talk.bench.advance(0.25);
  return talk.bench.nowS() - from;
}

describe('the fan of the board', () => {
  it('turns while motors are on, and a minute longer', async () => {
    const talk = await plover.changed(own('fan.board.by', 'with-motion'), ...BOARD_FAN);
    talk.bench.advance(1);
    expect(turns(talk)).toBe(0);
    talk.ask('G91');
    talk.ask('G1 X5 F600');
    talk.bench.advance(100);
    expect(turns(talk)).toBe(1);
    talk.ask('M84');
    expect(lasts(talk)).toBeCloseTo(60, 0);
  });
  it('turns while heat is asked for, and a minute longer', async () => {
    const talk = await plover.changed(own('fan.board.by', 'with-heat'), ...BOARD_FAN);
    talk.ask('M104 S60');
    talk.bench.advance(70);
    expect(turns(talk)).toBe(1);
    talk.ask('M104 S0');
    expect(lasts(talk)).toBeCloseTo(60, 0);
  });
});
