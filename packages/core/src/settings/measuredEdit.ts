import type { Edit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { OwnSetting } from '../machine/machine';
import type { SettingValue } from '../kit/settingValue';
import { atomsInWords, factAtoms } from '../machine/touched';
import { measuredBy } from './measured';

/**
 * The edit that gives a setting a measured value, with the state of every fact it was measured with, so that it is
 * known when it no longer holds. Settings that rest on nothing are kept without.
 */
export function measuredEdit(
  facts: Facts,
  key: string,
  value: SettingValue,
  because: string,
  source: OwnSetting['source'] = 'override',
): Edit {
  const atoms = factAtoms(facts);
  // That there was no relay or fan is a state as well; events and mounts have none of their own.
  const known = (measuredBy(key)?.restsOn ?? [])
    .filter((fact) => atoms.has(fact) || fact.includes('.'))
    .map((fact): [string, string] => [fact, atomsInWords(atoms.get(fact))]);
  const own: OwnSetting = {
    value,
    source,
    because,
    ...(known.length > 0 && { measured_with: Object.fromEntries(known) }),
  };
  return { path: ['settings', key], value: own };
}
