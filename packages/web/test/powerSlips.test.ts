import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import { meterRows } from '@jolly/core/firstPower/metering';
import { powerStages } from '@jolly/core/firstPower/stages';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { powerSlips } from '../src/stations/bringup/powerSlips';

const facts = factsOf(demoMachine('plover'));
const rows = meterRows(facts);
const stages = powerStages(facts);
const readings = [...rows, ...stages.flatMap(({ rails }) => rails)];
const looks = stages.flatMap((stage) => stage.looks);
const note = (asked: string, expected: string, said: string) =>
  ({ asked, expected, said, at: '2026-11-28T08:00:00.000Z' }) as unknown as PowerNote;
/** A reading of a row that fits it. */
const fitting = ({ bounds: { least, most } }: (typeof readings)[number]) =>
  most === Infinity ? 'open' : String((least + most) / 2);
const all = [
  ...readings.map((row) => note(row.id, row.expect, fitting(row))),
  ...looks.map(({ id, what }) => note(id, what, 'yes')),
];
const shown = (notes: readonly PowerNote[]) => powerSlips(rows, stages, notes);
const [first] = rows;
if (!first) throw new Error('a machine has something to measure');

describe('what is left of the first power', () => {
  it('is nothing only when everything was looked at and measured, and fits', () => {
    expect(shown(all)).toEqual([]);
    for (const left of all) expect(shown(all.filter((entry) => entry !== left))).toHaveLength(1);
  });

  it('counts what is open', () => {
    expect(shown([])).toMatchObject([
      { id: 'left', severity: 'todo', why: `Open: ${looks.length} things to look at, ${readings.length} readings.` },
    ]); // prettier-ignore
  });

  it('stops at a reading that does not fit, with what may be behind it, whatever else is done', () => {
    const heater = rows.find(({ group }) => group === 'Heaters') ?? first;
    const wrong = all.map((entry) => (entry.asked === heater.id ? { ...entry, said: 'open' } : entry));
    expect(shown(wrong)).toMatchObject([
      { id: heater.id, severity: 'stop', what: `${heater.what}: open does not fit.` },
    ]);
    expect(shown(wrong)[0]?.causes?.length).toBeGreaterThan(0);
  });

  it('and tells one from many', () => {
    const [look] = looks;
    expect(shown(all.filter(({ asked }) => asked !== look?.id))[0]?.why).toBe('Open: 1 thing to look at.');
  });

  it.each(['2 m', 'about ten', ''])('a note “%s” that is no reading leaves its row open', (said) => {
    const notes = all.map((entry) => (entry.asked === first.id ? { ...entry, said } : entry));
    expect(shown(notes)).toMatchObject([{ id: 'left', why: 'Open: 1 reading.' }]);
  });

  it('what was read when something else was expected is not taken for it', () => {
    const notes = all.map((entry) => (entry.asked === first.id ? { ...entry, expected: 'another' } : entry));
    expect(shown(notes)[0]?.why).toBe('Open: 1 reading.');
  });
});
