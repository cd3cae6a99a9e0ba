import { WAITING } from '@jolly/core/slicer/waitsForMoves';
import { describe, expect, it } from 'vitest';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { buildFor, demoFacts, flashed, type Talk, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();
async function withTwo(): Promise<Talk> {
  const facts = await demoFacts('bittern', ...TWO_EXTRUDERS);
  return talkTo({ facts, state: flashed(facts, await buildFor(facts, plover.compiler())) });
}
/** How a command that needs words is sent. */
const SENT: Readonly<Record<string, string>> = { G28: 'G28 Y', G4: 'G4 P1', 'move by': 'move by y=1' };

/** Homed at X 10, sent on a way of 10 s, and told a line meanwhile: where it stands once that line is answered. */
async function placeAfter(line: string): Promise<number> {
  const two = line.startsWith('T');
  const { ask, bench, heard } = await (two ? withTwo() : plover.powered());
  for (const before of ['G28', 'G1 X10 F6000', 'M400']) ask(before);
  const answers = () => heard.filter((one) => /^(done|error)/.test(one)).length;
  const from = answers();
  bench.send('G1 X110 F600');
  bench.send(line);
  bench.advanceUntil(() => answers() >= from + 2, 120);
  return bench.view().position.x;
}

describe('what is read ahead of the moves', () => {
  it.each([...WAITING])('%s waits until they have ended', async (command) => {
    expect(await placeAfter(SENT[command] ?? command)).toBeCloseTo(110, 0);
  });
  it.each(['M104 S0', 'M140 S0', 'M106 S255', 'M105'])('%s does not', async (line) => {
    expect(await placeAfter(line)).toBeLessThan(20);
  });
});
