import { ask, type Procedure } from '../bringup/procedure';
import type { Kit, StoredLine } from '../kit/kit';
import { numberOf, type Settings } from '../settings/setting';

function lineOf({ id, stored }: Kit, keys: readonly string[]): StoredLine {
  const line = stored.find(({ words }) => keys.every((key) => Object.values(words).includes(key)));
  if (!line) throw new Error(`${id} has no line that sets ${keys.join(', ')}`);
  return line;
}

const isCode = (say: string): boolean => /^[GMT]\d/.test(say);

/**
 * The line by which the running board takes stored settings, in the kit's own words: `M92 E93.2`, `second p=18 i=0.9`.
 * @param values by key of a setting; all of them belong to one line of the kit
 * @throws {Error} when they do not
 */
export function setsLine(kit: Kit, values: Readonly<Record<string, number>>): string {
  const { say, words } = lineOf(kit, Object.keys(values));
  const said = Object.entries(words).flatMap(([letter, key]) => {
    const value = values[key];
    if (value === undefined) return [];
    return [isCode(say) ? `${letter}${value}` : `${letter.toLowerCase()}=${value}`];
  });
  return [say, ...said].join(' ');
}

/**
 * Stored settings as the running board has them; as the file has them where the board does not tell.
 * @param keys all of one line of the kit
 * @throws {Error} when they are not
 */
export function* onBoard<Key extends string>(
  kit: Kit,
  settings: Settings,
  keys: readonly Key[],
): Procedure<Record<Key, number>> {
  const { say, words } = lineOf(kit, keys);
  const report = yield* ask('M503');
  const told = report.lines.find((entry) => entry.startsWith(`setting ${say} `)) ?? '';
  const valueOf = (key: string): number => {
    const letter = Object.keys(words).find((one) => words[one] === key) ?? '';
    const value = Number(new RegExp(`\\b${letter}=?(-?[\\d.]+)`, 'i').exec(told)?.[1] ?? NaN);
    return Number.isFinite(value) ? value : numberOf(settings, key);
  };
  // One for each key, by the line itself.
  return Object.fromEntries(keys.map((key) => [key, valueOf(key)])) as Record<Key, number>;
}
