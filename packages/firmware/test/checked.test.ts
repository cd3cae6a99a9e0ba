import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

/** What a machine does in its life, and what nobody means. */
const LIFE = [
  'M115', 'M503', 'G28', 'state', 'M119', 'map take', 'map show', 'map on', 'tilt', 'tram', 'probe repeat',
  'G1 X50 Y60 Z5 F6000', 'G1 X52 Y60', 'G1 X50', 'G2 X60 Y60 I5 J0', 'G3 X50 Y60 I-5 J0', 'M104 S200', 'M140 S50', 'M109 S180',
  'M83', 'G1 X60 E2', 'G1 X60 Y70 E1', 'G92 E0', 'G91', 'G1 X-3', 'G90', 'M106 S128', 'M107', 'M400', 'nudge z=0.02',
  'M92 X81', 'M500', 'M501', 'M502', 'current x=0.5', 'tune h=0 c=180', 'card list', 'M600', 'resume', 'G28 X', 'M84', 'M114',
]; // prettier-ignore

const sometimes = [
  own('corner.by', 'jolt'),
  own('arcs.on', true),
  own('lead.on', true),
  own('driver.report', true),
];

describe('Lantern compiled with the compiler’s own checks', () => {
  it.each([
    ['as it stands', []],
    ['with what is off in it', sometimes],
  ] as const)(
    '%s never reaches beyond an array, whatever it is told',
    async (_, edits) => {
      const facts = await demoFacts('plover', ...edits);
      const state = flashed(facts, await buildFor(facts, plover.compiler(), undefined, 'checked'));
      const { ask, bench, notices } = await talkTo({ facts, state });
      for (const line of LIFE) ask(line, 400);
      const word = fc.tuple(
        fc.constantFrom(...'XYZEFSPIJTNHC*'),
        fc.float({ noNaN: true, min: -1e9, max: 1e9 }),
      );
      const near = fc
        .tuple(fc.constantFrom(...LIFE, 'G1', 'M92', 'offset', 'M301 H0'), fc.array(word, { maxLength: 5 }))
        .map(([command, words]) => [command, ...words.map(([letter, value]) => letter + value)].join(' '));
      fc.assert(
        fc.property(near, (line) => (ask(line, 20), true)),
        { numRuns: 300 },
      );
      bench.advance(1);
      expect(notices.filter((notice) => notice.includes('hangs'))).toEqual([]);
    },
    120_000,
  );
  it('and where it does, it is stopped there', async () => {
    const facts = await demoFacts('plover', own('corner.by', 'jolt'));
    const beyond = (name: string, text: string) =>
      name === 'motion/planner.c'
        ? text.replace('i < HOMED_AXES; i++) most', 'i <= HOMED_AXES; i++) most')
        : text;
    const outcome = await buildFor(facts, plover.compiler(), beyond, 'checked');
    const { bench, notices } = await talkTo({ facts, state: flashed(facts, outcome) });
    for (const line of ['G91', 'G1 X1', 'G1 Y1']) bench.send(line);
    bench.advance(1);
    expect(notices).toEqual([expect.stringContaining('the board hangs')]);
  });
});
