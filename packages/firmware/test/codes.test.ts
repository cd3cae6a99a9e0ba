import { derive } from '@jolly/core/settings/derive';
import { notUnderstood } from '@jolly/core/settings/understands';
import { readStartCode } from '@jolly/core/slicer/readStartCode';
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

describe('what the kit file says a code takes is what its image takes', () => {
  it('letter for letter, with a number and alone, and what it needs', async () => {
    const talk = await plover.changed(...EVERYTHING);
    const facts = await demoFacts('plover', ...EVERYTHING);
    const settings = derive(facts);
    const codes = facts.kit.commands.filter(
      ({ say, takes }) => takes !== undefined && notUnderstood(facts, settings, say) === undefined,
    );
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
});

/** Lines as slicers write them, and slips of people who write them by hand. */
const PASTED = [
  'G1X10Y10', 'G1 X10 Y10 F6000', 'G1 X', 'G1 X1 X2', 'G1 X10,Y10', 'G1 X1e2', 'g28', 'G28 X', 'G28 X0', 'G28 W', 'G028',
  'G90', 'G91 X', 'G92 E0', 'G92 X5', 'G92', 'G4 P500', 'G4 S1', 'M82', 'M83', 'M84', 'M84 S0', 'M104 S200', 'M104 S200 T0',
  'M104 S276', 'M104 S-5', 'M104', 'M140 S60', 'M140 R60', 'M190 R60', 'M106', 'M106 S255', 'M106 S300', 'M106 P1 S100',
  'M107', 'M107 P1', 'M117 hello', 'M400', 'M500', 'M600', 'G29', 'T0', 'G0 X237', 'G1 X-6', 'nudge z=0.1', 'map take',
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
