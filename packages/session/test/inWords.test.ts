import { applyEdits } from '@jolly/core/machine/edit';
import { machineDifferences } from '@jolly/core/machine/machineDifferences';
import { pathInWords } from '@jolly/core/machine/pathInWords';
import { writeMachineFile } from '@jolly/core/formats/machineFile';
import { describe, expect, it } from 'vitest';
import { demoMachine, own } from '../../core/test/fixtures/demo';
import { changesInShort, shortly } from '../src/inWords';

describe('a machine file in words', () => {
  it('says places with their unit, and axes as capitals', () => {
    expect(pathInWords(['axes', 'x', 'max_speed_mm_s'])).toBe('drive of X max speed (mm/s)');
    expect(pathInWords(['frame', 'travel_mm', 'z'])).toBe('frame travel Z');
    expect(pathInWords(['supply', 'amps_a'])).toBe('supply amps (A)');
    expect(pathInWords(['settings', 'speed.x'])).toBe('your own value of speed.x');
  });
  it('of a drive only says what differs', () => {
    const plover = demoMachine('plover');
    const other = applyEdits(plover, [{ path: ['axes', 'x', 'teeth'], value: 20 }]);
    const [drive] = machineDifferences(plover, other);
    expect(changesInShort(drive!.from, drive!.to)).toEqual([{ label: 'teeth: ', from: '16', to: '20' }]);
    expect(changesInShort(undefined, own('speed.x', 90).value)).toEqual([
      { label: '', from: 'nothing', to: '90 (test)' },
    ]);
  });
  it('of what is no thing of parts, or has a reason of its own, says the whole', () => {
    for (const [from, to] of [
      [
        [1, 2],
        [1, 3],
      ],
      [null, { a: 1 }],
      [{ a: 1 }, 'one'],
      [
        { value: 1, because: 'so' },
        { value: 2, because: 'so' },
      ],
    ])
      expect(changesInShort(from, to)).toEqual([{ label: '', from: shortly(from), to: shortly(to) }]);
    expect(shortly(null)).toBe('null');
  });
  it('keeps anything to one short line', () => {
    for (const value of [
      demoMachine('plover'),
      writeMachineFile(demoMachine('plover')),
      undefined,
      null,
      [1, 2],
    ])
      expect(shortly(value).length).toBeLessThanOrEqual(91);
  });
});
