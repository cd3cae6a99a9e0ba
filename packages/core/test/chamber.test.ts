import { describe, expect, it } from 'vitest';
import { check } from '../src/checks/checks';
import { pinOf, pinTable } from '../src/circuit/pinTable';
import { applyEdits, type Edit } from '../src/machine/edit';
import { proofsOf } from '../src/proofs/proofs';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, own } from './fixtures/demo';

const { parts } = demoMachine('bittern');
const added: Edit[] = [
  { id: 'box-heater', part: 'bed-230-500', role: 'chamber' },
  { id: 'box-relay', part: 'sluice-s10', role: 'chamber' },
  { id: 'box-sensor', part: 't100-a', role: 'chamber' },
].map((value, index) => ({ path: ['parts', parts.length + index], value }));
const chamber = (...edits: Edit[]) =>
  factsOf(
    applyEdits(demoMachine('bittern'), [
      ...added,
      { path: ['harness', 'box-relay'], value: { leads: { supply: 'FAN-C.1', control: 'FAN-C.2' } } },
      { path: ['harness', 'box-sensor'], value: { leads: { signal: 'WARM-3.2', ground: 'WARM-3.1' } } },
      ...edits,
    ]),
  );

describe('a chamber whose heater runs on mains', () => {
  it('is heated by the pin its relay sits on', () => {
    const facts = chamber();
    const relay = facts.parts.find(({ id }) => id === 'box-relay');
    const row = pinTable(facts).heat.find(({ name }) => name === 'PIN_CHAMBER_HEATER');
    expect(row?.pin).toBe(pinOf(facts, relay, 'control'));
    expect(row?.pin).toBeDefined();
  });
  it('has its relay proven to drop out', () => {
    const ids = (...edits: Edit[]) =>
      proofsOf(chamber(...edits), derive(chamber(...edits))).map(({ id }) => id);
    expect(ids()).toContain('relay-chamber');
    expect(ids()).not.toContain('relay-bed');
  });
  it('is switched no faster than its relay stands, and it is said where somebody set it so', () => {
    expect(derive(chamber()).get('heat.chamber.cycle')?.value).toBe(0.5);
    const said = (...edits: Edit[]) => check(chamber(...edits), derive(chamber(...edits))).filter(({ id }) => id === 'heat.cycle-fast'); // prettier-ignore
    expect(said()).toEqual([]);
    expect(said(own('heat.chamber.cycle', 0.1)).map(({ subject }) => subject.id)).toEqual([
      'heat.chamber.cycle',
    ]);
  });
});
