import { judgeReading, meterRows } from '@jolly/core/firstPower/metering';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { benchOhms } from '../src/meter/benchMeter';

const misfits = (machine: string, hands: readonly HandAct[] = []) => {
  const facts = factsOf(demoMachine(machine));
  return meterRows(facts).flatMap((row) => {
    const { from, to, part, pressed } = row;
    const ohms = benchOhms(facts, hands, { from, to, ...(part && { part }), ...(pressed && { pressed }) });
    const verdict = judgeReading(row, ohms === Infinity ? { open: true } : { value: ohms });
    return verdict.fits ? [] : [[row.id, verdict.causes[0]?.cause]];
  });
};

describe('the bench’s meter', () => {
  it.each(['plover', 'bittern', 'dunlin'])('finds everything of %s as it is expected', (machine) => {
    expect(misfits(machine)).toEqual([]);
  });
  it('finds the windings that are mixed up, and nothing else', () => {
    expect(misfits('bittern', [{ lay: 'coil-crossed', on: true }])).toEqual([
      ['motor-x-motor-a', 'The two windings are crossed in the plug'],
      ['motor-x-motor-b', 'The two windings are crossed in the plug'],
    ]);
  });
  it('measures what is left at a plug that two motors share', () => {
    const facts = factsOf(demoMachine('bittern'));
    const winding = { from: 'S3 a1', to: 'S3 a2', part: 'z-motor' };
    expect(benchOhms(facts, [], winding)).toBeCloseTo(1.2);
    expect(benchOhms(facts, [], { ...winding, part: 'nobody' })).toBe(Infinity);
  });
});
