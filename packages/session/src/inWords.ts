import { valueInWords } from '@jolly/core/kit/settingInWords';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { machineDifferences } from '@jolly/core/machine/machineDifferences';
import { pathInWords } from '@jolly/core/machine/pathInWords';

const LONGEST = 90;

/** Any value of a machine file in one short line. */
export function shortly(value: unknown): string {
  if (value === undefined) return 'nothing';
  if (value !== null && typeof value === 'object' && 'value' in value && 'because' in value)
    // Looked at by its caller: a setting with its reason.
    return `${valueInWords(value.value as SettingValue)} (${String(value.because)})`;
  const text =
    typeof value === 'string'
      ? value
      : JSON.stringify(value).replace(/["{}]/g, '').replaceAll(',', ', ').replaceAll(':', ' ');
  return text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

/** What differs between two values: of a thing with many parts only the parts that do. */
export function changesInShort(from: unknown, to: unknown): { label: string; from: string; to: string }[] {
  if (!isRecord(from) || !isRecord(to) || 'because' in to)
    return [{ label: '', from: shortly(from), to: shortly(to) }];
  return machineDifferences(from, to).map((one) => ({
    label: `${pathInWords(one.path)}: `,
    from: shortly(one.from),
    to: shortly(one.to),
  }));
}
