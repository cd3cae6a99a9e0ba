import { valueInWords } from '@jolly/core/kit/settingInWords';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { machineDifferences } from '@jolly/core/machine/machineDifferences';
import type { Path } from '@jolly/core/tree/path';

const WORDS: Record<string, string> = {
  axes: 'drive of',
  bed_mm: 'plate',
  travel_mm: 'travel',
  room_mm: 'room',
  harness: 'landing of',
  parts: 'part',
  probe_mount: 'mount of the probe',
  settings: 'your own value of',
  slicer: 'slicer G-code',
  waivers: 'set aside:',
};

const UNITS: [RegExp, string][] = [
  [/_mm_s2$/, ' (mm/s²)'],
  [/_mm_s$/, ' (mm/s)'],
  [/_mm$/, ' (mm)'],
  [/_v$/, ' (V)'],
  [/_a$/, ' (A)'],
];

/** One key of a machine file, as people say it: its unit in brackets, an axis as a capital. */
function keyInWords(key: string | number): string {
  const known = WORDS[key];
  if (known) return known;
  const unit = UNITS.find(([end]) => end.test(String(key)));
  const bare = unit ? String(key).replace(unit[0], unit[1]) : String(key);
  return /^[xyz]$/.test(bare) ? bare.toUpperCase() : bare.replaceAll('_', ' ');
}

/** The place of a value in a machine file, as people say it. */
export function pathInWords(path: Path): string {
  return path.map(keyInWords).join(' ');
}

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
