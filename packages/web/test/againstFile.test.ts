import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { againstFile } from '../src/stations/calibrate/againstFile';

const facts = factsOf(demoMachine('plover'));
const settings = derive(facts);
const told = (lines: string[], known = settings) => againstFile(lines, { settings: known, kit: facts.kit });
const [x, y] = [numberOf(settings, 'steps.x'), numberOf(settings, 'steps.y')];

describe('what the board tells, held against the machine file', () => {
  it('is the same within rounding, and otherwise comes with the line that puts it right', () => {
    const { alike, differing } = told([`setting M92 X${x + 0.0001} Y${y + 5}`]);
    expect(alike).toBe(1);
    expect(differing).toEqual([{ key: 'steps.y', board: y + 5, file: y, line: `M92 X${x + 0.0001} Y${y}` }]);
  });

  it('an answer without a value says nothing is the same', () => {
    for (const lines of [[], ['done'], ['setting nonsense']])
      expect(told(lines)).toMatchObject({ alike: 0, differing: [] });
  });

  it('what the file has no number for counts as nothing', () => {
    const without = new Map([...settings].filter(([key]) => key !== 'steps.x'));
    expect(told([`setting M92 X${x} Y${y}`], without)).toEqual({
      alike: 1,
      differing: [],
      beside: ['X steps'],
    });
  });

  it('what the board finds itself is not held against the file, and never put “right”', () => {
    const lines = ['setting touch l=300 r=3700 t=3650 b=320'];
    expect(told(lines)).toEqual({
      alike: 0,
      differing: [],
      beside: ['left', 'right', 'top', 'bottom'].map((side) => `Touch layer says, ${side}`),
    });
  });

  it('every stored value can be put right by the line it comes with, and by its own word alone', () => {
    for (const { say, words } of facts.kit.stored.filter((one) => !one.own)) {
      const own = /^[GMT]\d+$/.test(say);
      const word = (letter: string, value: number) =>
        own ? `${letter}${value}` : `${letter.toLowerCase()}=${value}`;
      const line = (values: (key: string) => number) =>
        `${say} ${Object.entries(words)
          .map(([letter, key]) => word(letter, values(key)))
          .join(' ')}`;
      const file = (key: string) => numberOf(settings, key);
      for (const wrong of Object.values(words)) {
        const { differing } = told([`setting ${line((key) => file(key) + (key === wrong ? 3 : 0))}`]);
        expect([say, differing]).toEqual([
          say,
          [{ key: wrong, board: file(wrong) + 3, file: file(wrong), line: line(file) }],
        ]);
      }
    }
  });
});
