import type { Option } from '@jolly/core/kit/kit';
import { valueInWords } from '@jolly/core/kit/settingInWords';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { readNumber } from '../../ui/readNumber';

/** The values an option has to choose from; undefined where its value is typed. */
export function choicesOf(option: Option): readonly SettingValue[] | undefined {
  if (option.kind === 'flag') return [true, false];
  return option.kind === 'choice' ? option.choices : undefined;
}

/** Text as a value of an option, a number in its unit or one that turns into it; undefined when it is none. */
export function wantedValue(option: Option, text: string): SettingValue | undefined {
  const plain = text.trim();
  if (plain === '') return undefined;
  if (option.kind === 'number') return readNumber(plain, option.unit);
  const choices = choicesOf(option);
  return choices ? choices.find((choice) => valueInWords(choice) === plain) : plain;
}
