import { derive } from '@jolly/core/settings/derive';
import { notUnderstood } from '@jolly/core/settings/understands';
import { readStartCode } from '@jolly/core/slicer/readStartCode';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFacts, type Talk, workshop } from './fixtures/builtMachine';
import { EVERYTHING } from './fixtures/everything';

const plover = workshop();
const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

/** What the image says to a line, if it refuses it for its words. */
const refusal = (talk: Talk, line: string): string | undefined =>
  ['a word does not belong there', 'a number is missing', 'a letter must stand alone'].find((why) =>
    talk.ask(line).some((said) => said.startsWith(`error: ${why}`)),
  );

/** An image with all there is, and the commands that the kit file says it knows. */
async function everything() {
  const talk = await plover.changed(...EVERYTHING);
  const facts = await demoFacts('plover', ...EVERYTHING);
  const settings = derive(facts);
  const known = facts.kit.commands.filter(({ say }) => notUnderstood(facts, settings, say) === undefined);
  return { talk, known };
}

describe('what the kit file says a command takes is what its image takes', () => {
  it('codes: letter for letter, with a number and alone, and what they need', async () => {
    const { talk, known } = await everything();
    const codes = known.filter(({ say, takes }) => takes !== undefined && /^[A-Z]/.test(say));
    expect(codes.length).toBeGreaterThan(25);
    for (const { say, takes = '', alone = '', needs = '', ranges = {} } of codes) {
      for (const letter of LETTERS) {
        if (!alone.includes(letter))
          expect([say, letter, refusal(talk, `${say} ${letter}`)]).toEqual([say, letter, takes.includes(letter) ? 'a number is missing' : 'a word does not belong there']); // prettier-ignore
        if (!takes.includes(letter))
          expect([say, letter, refusal(talk, `${say} ${letter}1`)]).toEqual([say, letter, alone.includes(letter) ? 'a letter must stand alone' : 'a word does not belong there']); // prettier-ignore
      }
      const refused = (line: string) => expect([line, talk.ask(line).at(-1)?.startsWith('error')]).toEqual([line, true]); // prettier-ignore
      if (needs !== '') refused(say);
      for (const [letter, [from, to]] of Object.entries(ranges)) for (const beyond of [from - 1, to + 1]) refused(`${say} ${letter}${beyond}`); // prettier-ignore
    }
  });
  it('words: letter for letter', async () => {
    const { talk, known } = await everything();
    const worded = known.filter(({ say, takes }) => takes !== undefined && /^[a-z]/.test(say));
    expect(worded.length).toBeGreaterThan(20);
    for (const { say, takes = '' } of worded)
      for (const letter of LETTERS.filter((one) => !takes.includes(one)))
        expect([say, letter, refusal(talk, `${say} ${letter.toLowerCase()}=1`)]).toEqual([say, letter, 'a word does not belong there']); // prettier-ignore
  });
  it('and what it says is homed before it, is', async () => {
    const { talk, known } = await everything();
    const homed = known.filter((command) => command.homed !== undefined);
    expect(homed.length).toBeGreaterThan(3);
    for (const { say } of homed) expect([say, talk.ask(say).at(-1)]).toEqual([say, expect.stringMatching(/^error: (home X, Y and Z first|there is no map)/)]); // prettier-ignore
  });
});

/** Lines as slicers write them, and slips of people who write them by hand. */
const PASTED = [
  'G1X10Y10', 'G1 X10 Y10 F6000', 'G1 X', 'G1 X1 X2', 'G1 X10,Y10', 'G1 X1e2', 'g28', 'G28 X', 'G28 X0', 'G28 W', 'G028',
  'G90', 'G91 X', 'G92 E0', 'G92 X5', 'G92', 'G4 P500', 'G4 S1', 'M82', 'M83', 'M84 S0', 'M104 S200', 'M104 S200 T0',
  'M104 S276', 'M104 S-5', 'M104', 'M140 S60', 'M140 R60', 'M190 R60', 'M106', 'M106 S255', 'M106 S300', 'M106 P1 S100',
  'M107', 'M107 P1', 'M117 hello', 'M400', 'M500', 'M600', 'G29', 'T0', 'G0 X237', 'G1 X-6', 'nudge z=0.1', 'map take',
  'G1 F0', 'G1 X20 F-5', 'G4 S70', 'G4 P-1', 'nudge z=3', 'nudge 0.1', 'nudge z=', 'nudge z=0.1 z=0.2', 'move by x=5', 'move by X5',
  'preheat q=1', 'M203 X300', 'M203 X99999', 'M203 S300', 'M92 X0', 'M92 E', 'offset x=-38', 'map take s=1', 'G1 E5', 'G1 E0',
]; // prettier-ignore

describe('a line of start G-code is told of if, and only if, the board refuses it', () => {
  it.each(PASTED)('%s', async (line) => {
    const facts = plover.facts();
    const before = ['G28', 'M83', 'M104 S60'];
    const told = readStartCode([...before, line].join('\n'), facts, derive(facts));
    const talk = await plover.powered();
    for (const one of before) expect(talk.ask(one).at(-1)).toBe('done');
    const refused = talk.ask(line).some((said) => said.startsWith('error'));
    expect(told.some((problem) => problem.line === before.length + 1)).toBe(refused);
  });
});

const anywhere = (from: number, to: number) => fc.double({ min: from, max: to, noNaN: true }).map((mm) => mm.toFixed(1)); // prettier-ignore

/** Lines of which it can be told what becomes of them, whatever is stored on the board. */
const anyLine = fc.oneof(
  fc.constantFrom('G28', 'G28 X', 'G28 Z', 'G28 X Y', 'G90', 'G91', 'M82', 'M83', 'G92 E0', 'M84', 'M400', 'G4 P500', 'M107', 'M401', 'map take', 'tilt take', 'M117 Hello', 'G1 F1200', 'G1 F0'),
  anywhere(150, 300).map((c) => `M109 S${c}`),
  anywhere(20, 130).map((c) => `M140 S${c}`),
  fc.tuple(anywhere(-12, 245), anywhere(-8, 220)).map(([x, y]) => `G90\nG1 X${x} Y${y} F6000`),
  anywhere(-2, 12).map((z) => `G90\nG1 Z${z}`),
  anywhere(0, 6).map((z) => `G91\nG1 Z${z}\nG1 E2 F300\nG90`),
  anywhere(-6, 260).map((e) => `M83\nG1 E${e} F1800`),
  anywhere(-40, 260).map((e) => `M82\nG92 E1\nG1 X50 E${e} F1800`),
); // prettier-ignore

describe('a whole start is followed as the board does it', () => {
  it('what it refuses is told, and what is told as refused is refused', async () => {
    const facts = plover.facts();
    const settings = derive(facts);
    await fc.assert(
      fc.asyncProperty(fc.array(anyLine, { minLength: 6, maxLength: 14 }), async (parts) => {
        const code = parts.join('\n');
        const told = readStartCode(code, facts, settings);
        const talk = await plover.powered();
        for (const [index, line] of code.split('\n').entries()) {
          const refused = talk.ask(line, 900).some((said) => said.startsWith('error'));
          const here = told.filter((problem) => problem.line === index + 1);
          // Said once, until something makes it good.
          const before = told.filter(
            (one) => one.line <= index && ['start.no-home', 'start.cold'].includes(one.id),
          );
          if (refused) expect([line, here.length + before.length > 0]).toEqual([line, true]);
          const sure = here.some(({ id }) =>
            ['start.not-known', 'start.outside', 'start.over-limit'].includes(id),
          );
          if (sure) expect([line, refused]).toEqual([line, true]);
        }
      }),
      { numRuns: 40, seed: 12 },
    );
  });
});
