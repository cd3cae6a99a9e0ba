import { blankBoard } from '@jolly/bench';
import { AXES } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { type Built, builtDemo, own, talkTo } from './fixtures/builtMachine';

const compiler = compilerForTests();
const MIXED = [own('nudge.on', true), own('map.on', true), own('arcs.on', true), own('offsets.on', true)];

const within = (low: number, high: number) =>
  fc.double({ min: low, max: high, noNaN: true }).map((value) => Number(value.toFixed(3)));
/** Not so slow that what was sent takes longer than anybody waits. */
const feed = fc.option(fc.integer({ min: 1200, max: 12_000 })).map((value) => (value === null ? '' : ` F${value}`)); // prettier-ignore
const word = (letter: string, low: number, high: number) =>
  fc.option(within(low, high)).map((value) => (value === null ? '' : ` ${letter}${value}`));
const said = (...parts: fc.Arbitrary<string>[]) => fc.tuple(...parts).map((texts) => texts.join(''));
/** Lines that are mixed in a print: moves of all kinds, filament alone, what raises Z, and modes. */
const line = fc.oneof(
  said(fc.constant('G1'), word('X', 20, 180), word('Y', 20, 180), word('Z', 1, 20), word('E', -2, 6), feed),
  said(fc.constant('G1'), word('X', -4, 4), word('Y', -4, 4), word('E', -2, 2), feed),
  said(fc.constantFrom('G2', 'G3'), word('I', -10, 10), word('J', -10, 10), feed),
  said(fc.constant('G1'), word('E', -5, 20), feed),
  within(-0.4, 0.4).map((mm) => `nudge z=${mm}`),
  within(-3, 3).map((mm) => `move by x=${mm} e=1 f=3000`),
  fc.constantFrom('map use', 'map drop', 'G90', 'G91', 'M82', 'M83', 'G92 E0', 'M400'),
);

/** Sends lines as a host does that keeps `ahead` of them on their way; how fast each motor went, and where all ends. */
async function played({ facts, image }: Built, lines: readonly string[], ahead: number) {
  const settings = derive(facts);
  const names = [...AXES, 'e'];
  const steps = names.map((name) => numberOf(settings, `steps.${name}`));
  const fastest = names.map(() => 0);
  const talk = await talkTo({
    facts,
    state: { ...blankBoard(facts.chip), image },
    onPulses: (pulses, entries) => {
      for (const { motor, perSecond } of pulses.slice(0, entries))
        fastest[motor] = Math.max(fastest[motor] ?? 0, perSecond / (steps[motor] ?? 1));
    },
  });
  for (const before of ['G28', 'M109 S210', 'map take', 'G1 X60 Y60 Z5 F6000', 'M400']) talk.ask(before);
  fastest.fill(0);
  let open = 0;
  let seen = talk.heard.length;
  const atMost = (waiting: number) => () => {
    for (; seen < talk.heard.length; seen += 1) if (/^(done$|error:)/.test(talk.heard[seen] ?? '')) open -= 1;
    return open <= waiting;
  };
  for (const one of lines) {
    open += 1;
    talk.bench.send(one);
    talk.bench.advanceUntil(atMost(ahead), 600);
  }
  talk.bench.advanceUntil(atMost(0), 600);
  for (const after of ['G90', 'G1 X100 Y100 F6000', 'M400']) talk.ask(after);
  return { fastest, talk, limits: names.map((name) => numberOf(settings, `speed.${name}`)) };
}

describe('whatever is mixed', () => {
  it.each(['plover', 'dunlin'])('%s: no axis is faster than it may be, nothing is lost, and it stands where it says', async (id) => {
    const built = await builtDemo(id, MIXED.slice(id === 'dunlin' ? 2 : 0), compiler);
    await fc.assert(
      fc.asyncProperty(fc.array(line, { minLength: 20, maxLength: 60 }), fc.integer({ min: 0, max: 2 }), async (lines, ahead) => {
        const { fastest, limits, talk } = await played(built, lines, ahead);
        // Pulses come at whole steps: over a few of them a speed is told a little too high.
        fastest.forEach((mmS, motor) => expect(mmS).toBeLessThanOrEqual((limits[motor] ?? 0) * 1.04));
        const { position, lost, nozzleInPlateMm } = talk.bench.truth();
        expect([...Object.values(lost), nozzleInPlateMm]).toEqual([0, 0, 0, 0, 0]);
        const told = talk.values('M114', 'at');
        for (const axis of ['x', 'y'] as const) expect(Math.abs(position[axis] - Number(told[axis]))).toBeLessThan(0.03);
        expect(talk.notices).toEqual([]);
      }),
      { numRuns: 4, endOnFailure: true },
    );
  }); // prettier-ignore
});
