import type { Path, SettingValue } from '@jolly/core';

/** A value as it is read aloud: words for flags, no more digits than matter. */
export function valueInWords(value: SettingValue): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  return String(value);
}

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

/** The place of a value in a machine file, as people say it. */
export function pathInWords(path: Path): string {
  return path.map((step) => WORDS[step] ?? String(step).replaceAll('_', ' ')).join(' ');
}

const LONGEST = 90;

/** Any value of a machine file in one short line. */
export function shortly(value: unknown): string {
  if (value === undefined) return 'nothing';
  if (value !== null && typeof value === 'object' && 'value' in value && 'because' in value)
    return `${valueInWords(value.value as SettingValue)} (${String(value.because)})`;
  const text =
    typeof value === 'string'
      ? value
      : JSON.stringify(value).replace(/["{}]/g, '').replaceAll(',', ', ').replaceAll(':', ' ');
  return text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text;
}
