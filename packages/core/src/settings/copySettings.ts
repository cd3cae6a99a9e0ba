import type { Facts } from '../machine/facts';
import type { SettingValue } from '../kit/settingValue';
import type { Option } from '../kit/kit';
import { refusal } from '../kit/kit';
import { ofOneMachine } from './ofOneMachine';
import type { Setting, Settings } from './setting';

/** A setting that another machine has otherwise. */
export interface CopyRow {
  option: Option;
  mine: SettingValue;
  theirs: SettingValue;
  /** What speaks against taking it: it was measured there, belongs to that machine, or is out of range here. */
  against?: string;
}

/** What facts decide here and may still be taken from a machine that was tuned longer. */
const TUNED = /^(speed|accel|corner|guard|map\.(columns|rows|after-home))\b/;

/** Every setting that differs on another machine, in the kit's order: first what may well be copied, then what something speaks against. */
export function copyRows(mine: Facts, settings: Settings, theirs: Facts, others: Settings): CopyRow[] {
  const rows = mine.kit.options.flatMap((option): CopyRow[] => {
    const is = settings.get(option.key);
    const other = others.get(option.key);
    if (!is || !other || other.value === is.value) return [];
    const against = speaksAgainst(option, is, other.value, theirs.machine.name);
    return [{ option, mine: is.value, theirs: other.value, ...(against && { against }) }];
  });
  return [...rows.filter(({ against }) => !against), ...rows.filter(({ against }) => against)];
}

function speaksAgainst(
  option: Option,
  mine: Setting,
  value: SettingValue,
  whose: string,
): string | undefined {
  const own = ofOneMachine(option.key);
  if (own === 'measured') return `it belongs to what ${whose} was measured with; measure it here`;
  const derived = mine.source === 'derived' || mine.hidden?.source === 'derived';
  if (derived && !TUNED.test(option.key)) return 'the facts of this machine decide it';
  if (own === 'itself') return `it describes ${whose} itself`;
  return refusal(option, value);
}
