import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { againstFile } from '../src/stations/calibrate/againstFile';

const settings = derive(factsOf(demoMachine('plover')));
const [x, y] = [numberOf(settings, 'steps.x'), numberOf(settings, 'steps.y')];

describe('what the board tells, held against the machine file', () => {
  it('is the same within rounding, and otherwise comes with the line that puts it right', () => {
    const { alike, differing } = againstFile([`setting M92 X${x + 0.0001} Y${y + 5}`], settings);
    expect(alike).toBe(1);
    expect(differing).toEqual([{ key: 'steps.y', board: y + 5, file: y, line: `M92 X${x + 0.0001} Y${y}` }]);
  });

  it('an answer without a value says nothing is the same', () => {
    for (const lines of [[], ['done'], ['setting nonsense']])
      expect(againstFile(lines, settings)).toMatchObject({ alike: 0, differing: [] });
  });

  it('what the file has no number for counts as nothing', () => {
    const without = new Map([...settings].filter(([key]) => key !== 'steps.x'));
    expect(againstFile([`setting M92 X${x} Y${y}`], without)).toEqual({
      alike: 1,
      differing: [],
      beside: ['steps.x'],
    });
  });
});
