import type { Option } from './kit';
import type { SettingValue } from './settingValue';

/** A value as it is read aloud, without its unit: words for flags. */
export function valueInWords(value: SettingValue): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  return String(value);
}

/** The unit that stands behind an option's value; empty where it has none, or the option is not known. */
const unitBehind = (option: Option | undefined): string =>
  option && 'unit' in option && option.unit !== '' ? ` ${option.unit}` : '';

/** A value of an option as it is read aloud: `85 °C`, `on`. An option that a kit has no more has no unit. */
export const settingInWords = (option: Option | undefined, value: SettingValue): string =>
  `${valueInWords(value)}${typeof value === 'boolean' ? '' : unitBehind(option)}`;
