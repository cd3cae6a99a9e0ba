import type { Facts } from '../machine/facts';
import type { SettingValue } from '../kit/settingValue';

export interface Derived {
  value: SettingValue;
  because: string;
}
/** What the facts of a machine say about one option; undefined when they do not decide it. */
export type Derivation = (facts: Facts) => Derived | undefined;
/** Nothing follows from what nobody knows: the kit's own value holds. */
export const known = (value: SettingValue | undefined, because: string): Derived | undefined =>
  value === undefined ? undefined : { value, because };

/** An option and the rule that derives it. */
export type Rule = [key: string, derivation: Derivation];
