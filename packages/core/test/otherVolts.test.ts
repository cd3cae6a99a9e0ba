import { describe, expect, it } from 'vitest';
import { check } from '../src/checks/checks';
import type { Machine } from '../src/machine/machine';
import { ripple } from '../src/ripple/ripple';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf } from './fixtures/demo';
import { changes } from './fixtures/job';

/** Plover, all of it made for 24 V, on a supply of so many volts. */
const fedWith = (volts_v: number): Machine => ({
  ...demoMachine('plover'),
  supply: { ...demoMachine('plover').supply, volts_v },
});
/** What is said of the volts that each part gets, by part. */
function saidAt(volts: number): Record<string, string> {
  const facts = factsOf(fedWith(volts));
  const found = check(facts, derive(facts)).filter(({ id }) => id === 'supply.voltage');
  return Object.fromEntries(found.map(({ subject, why }) => [subject.id, why]));
}
const FED = ['bed-heater', 'hotend-fan', 'hotend-heater', 'part-fan'];

describe('a machine on a supply of other volts', () => {
  it('a heater is made for the volts it gives its watts at, as a fan is for its own', () => {
    expect(saidAt(26)).toEqual({});
    expect(Object.keys(saidAt(12)).sort()).toEqual(FED);
    expect(saidAt(12)['hotend-heater']).toContain('25 % of its heat');
    expect(saidAt(12)['part-fan']).toContain('runs weakly');
    expect(Object.keys(saidAt(36)).sort()).toEqual(FED);
    for (const why of Object.values(saidAt(36))) expect(why).toContain('It burns.');
  });
  it('in a job it is a caution, which burns only where there are too many', () => {
    const cautions = (volts_v: number) =>
      ripple(factsOf(demoMachine('plover')), changes({ kind: 'supply', volts_v, amps_a: 20 }))
        .consequences.filter(({ subject }) => subject.startsWith('volts-'))
        .map(({ title }) => title.split(':')[0]);
    expect(cautions(26)).toEqual([]);
    expect(cautions(12).sort()).toEqual(FED.map((part) => `${part} runs weakly or not at all`));
    expect(cautions(36).sort()).toEqual(FED.map((part) => `${part} burns`));
  });
});
