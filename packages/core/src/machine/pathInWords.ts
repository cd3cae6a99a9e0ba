import type { Path } from '../tree/path';

const WORDS: Record<string, string> = {
  axes: 'drive of',
  bed_mm: 'plate',
  travel_mm: 'travel',
  room_mm: 'room',
  harness: 'landing of',
  jumpers: 'jumper',
  part: 'type',
  parts: 'part',
  pins: 'pin of',
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
