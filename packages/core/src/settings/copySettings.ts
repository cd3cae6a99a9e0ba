import type { Facts } from '../machine/facts';
import type { SettingValue } from '../machine/machine';
import type { Option } from '../kit/kit';
import { refusal } from '../kit/kit';
import { measuredBy } from './measured';
import type { Settings } from './setting';

/** A setting that another machine has otherwise. */
export interface CopyRow {
  option: Option;
  mine: SettingValue;
  theirs: SettingValue;
  /** What speaks against taking it: it was measured there, belongs to that machine, or is out of range here. */
  against?: string;
}

/** Settings that name or place a machine and make no sense on another. */
const OF_ITS_OWN = /^(machine\.name|travel\.|bed\.|home\.spot|map\.(x|y)\.|probe\.offset|sensor\.)/;

/** Every setting that differs on another machine, in the kit's order, with what speaks against copying it. */
export function copyRows(mine: Facts, settings: Settings, theirs: Facts, others: Settings): CopyRow[] {
  return mine.kit.options.flatMap((option) => {
    const is = settings.get(option.key)!.value;
    const other = others.get(option.key);
    if (!other || other.value === is) return [];
    const against = speaksAgainst(option, other.value, theirs.machine.name);
    return [{ option, mine: is, theirs: other.value, ...(against && { against }) }];
  });
}

function speaksAgainst(option: Option, value: SettingValue, whose: string): string | undefined {
  if (measuredBy(option.key)) return `it belongs to what ${whose} was measured with; measure it here`;
  if (OF_ITS_OWN.test(option.key)) return `it describes ${whose} itself`;
  if (/^(direction|steps|current|switch|servo)\b/.test(option.key))
    return 'the facts of this machine decide it';
  return refusal(option, value);
}
