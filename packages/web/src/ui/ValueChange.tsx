import type { Option } from '@jolly/core/kit/kit';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import type { SettingValue } from '@jolly/core/kit/settingValue';

interface Change {
  option: Option | undefined;
  from: SettingValue | undefined;
  to: SettingValue | undefined;
}

/** A setting's value before and after, each with its unit; a side that has no such setting says so. */
export function ValueChange({ option, from, to }: Change) {
  const inWords = (value: SettingValue | undefined) =>
    value === undefined ? 'none' : settingInWords(option, value);
  return (
    <span className="figures">
      <s>{inWords(from)}</s> → {inWords(to)}
    </span>
  );
}
