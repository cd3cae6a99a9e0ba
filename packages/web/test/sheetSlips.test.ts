import type { ProofRow } from '@jolly/core/formats/proofSheet';
import { applyEdits } from '@jolly/core/machine/edit';
import { untripped } from '@jolly/core/proofs/guards';
import { proofSteps } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, own } from '../../core/test/fixtures/demo';
import { sheetSlips } from '../src/stations/bringup/sheetSlips';

const facts = factsOf(demoMachine('plover'));
const steps = proofSteps(facts, derive(facts));
const rowsOf = (outcomes: readonly ProofRow['outcome'][]): ProofRow[] =>
  steps.map((step, nth) => ({ step, outcome: outcomes[nth] ?? 'proven', evidence: ['seen'], when: '1 May' }));
const settingAt = (key: string) => `/machines/plover/settings?key=${key}`;
const slipsOf = (rows: ProofRow[], bare = untripped(facts, derive(facts))) =>
  sheetSlips({ machine: 'plover', rows, bare, settingAt });

describe('what keeps a proof sheet from being whole', () => {
  it('is nothing only when every step is proven and every heater guarded', () => {
    const outcome = fc.constantFrom('proven', 'failed', 'unproven');
    const of = fc.array(outcome, { minLength: steps.length, maxLength: steps.length });
    fc.assert(
      fc.property(of, (outcomes) => {
        const slips = slipsOf(rowsOf(outcomes));
        expect(slips.length === 0).toBe(outcomes.every((one) => one === 'proven'));
        const stops = slips.filter(({ severity }) => severity === 'stop');
        expect(stops).toHaveLength(outcomes.filter((one) => one === 'failed').length);
        for (const { evidence } of stops) expect(evidence).toContain('seen');
        const left = outcomes.filter((one) => one === 'unproven').length;
        const told = slips.find(({ id }) => id === 'untested');
        expect(told?.what).toBe(left > 0 ? `${left} of ${steps.length} steps not tested.` : undefined);
      }),
      { numRuns: 60 },
    );
  });

  it('a guard that is off leads to its setting, though every step is proven', () => {
    const off = derive(factsOf(applyEdits(demoMachine('plover'), [own('guard.bed', false)])));
    const [slip, ...others] = slipsOf(rowsOf([]), untripped(facts, off));
    expect(others).toEqual([]);
    expect(slip).toMatchObject({
      severity: 'mend',
      what: 'The guard of the bed is off.',
      actions: [{ go: settingAt('guard.bed') }],
    });
  });

  it('a guard that no step trips is said, and no setting is blamed', () => {
    const [slip] = slipsOf(rowsOf([]), [{ called: 'second hot end', guard: 'guard.hotend', off: false }]);
    expect(slip).toMatchObject({ what: 'No step trips the guard of the second hot end.', actions: [] });
  });
});
