import { describe, expect, it } from 'vitest';
import { factsOf } from '@jolly/session/machineFacts';
import { applyEdits } from '@jolly/core/machine/edit';
import { demoMachine, factsOf as resolved } from '../../core/test/fixtures/demo';
import { asShown } from '../src/ui/asShown';

describe('a list of choices', () => {
  const ways = [{ value: 'clockwise', label: 'clockwise' }];
  it('has what is shown among them, and does not show the first as if it held', () => {
    expect(asShown(ways, 'clockwise', 'not known')).toEqual(ways);
    expect(asShown(ways, '', 'not known')[0]).toEqual({ value: '', label: 'not known' });
    expect(asShown(['8', '16'], '256', 'not known')[0]).toEqual({ value: '256', label: '256' });
  });
  it('of the facts of a machine: what is not known can be told from what is, and taken back', () => {
    const machine = applyEdits(demoMachine('plover'), [{ path: ['axes', 'z', 'plus_is'] }]);
    const fields = factsOf('z', { machine, facts: resolved(machine) });
    expect(fields.find(({ label }) => label.startsWith('Shaft turns'))).toMatchObject({ value: undefined, empty: 'not known' }); // prettier-ignore
    for (const field of fields.filter(({ kind }) => kind === 'choice')) {
      const offered = [...(field.choices ?? []).map(({ value }) => value), ...(field.empty ? [''] : [])];
      expect(offered).toContain(String(field.value ?? ''));
    }
  });
});
