import { describe, expect, it } from 'vitest';
import { pinsBuilt } from '../src/build/pinsBuilt';
import { write } from '../src/build/write';
import { check } from '../src/checks/checks';
import { pinTable } from '../src/circuit/pinTable';
import { applyEdits } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf } from './fixtures/demo';

describe('the pins of an image', () => {
  it.each(['plover', 'bittern', 'dunlin'])('are those its files were written with: %s', (id) => {
    const facts = factsOf(demoMachine(id));
    const rows = Object.values(pinTable(facts)).flat();
    expect(pinsBuilt(write(facts, derive(facts)))).toEqual(Object.fromEntries(rows.map(({ name, pin }) => [name, pin]))); // prettier-ignore
  });
  it('are told apart from those of a lead that was moved since', () => {
    const facts = factsOf(demoMachine('plover'));
    const builtPins = pinsBuilt(write(facts, derive(facts)));
    const moved = factsOf(applyEdits(facts.machine, [{ path: ['harness', 'part-fan'], value: { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } } }])); // prettier-ignore
    const said = (of: typeof facts) => check(of, derive(of), { builtPins }).flatMap(({ id, evidence }) => (id === 'upkeep.other-pins' ? evidence : [])); // prettier-ignore
    expect(said(facts)).toEqual([]);
    expect(said(moved)).toEqual([expect.stringMatching(/^PIN_\w*FAN\w*: image p\d+, file p\d+$/)]);
  });
});
