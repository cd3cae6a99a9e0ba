import { atomsInWords, type Edit, factAtoms, type Facts, measuredBy, type SettingValue } from '@jolly/core';

/** A value of the machine's own with the state of every fact it was measured with, so that it is known when it no longer holds. */
export function measuredEdit(facts: Facts, key: string, value: SettingValue, because: string): Edit {
  const atoms = factAtoms(facts);
  const restsOn = measuredBy(key)?.restsOn ?? [];
  const with_ = restsOn
    .filter((fact) => atoms.has(fact))
    .map((fact) => [fact, atomsInWords(atoms.get(fact))]);
  return {
    path: ['settings', key],
    value: {
      value,
      source: 'override',
      because,
      ...(with_.length > 0 && { measured_with: Object.fromEntries(with_) as Record<string, string> }),
    },
  };
}
