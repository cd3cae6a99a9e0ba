import { fnv1a } from '../bytes/fnv1a';
import type { Kit, NumberOption } from './kit';

/** One setting that the board keeps, in the order of its place in the store. */
export interface StoredSetting {
  option: NumberOption;
  /** The line of the kit's table it belongs to, and its letter there. */
  say: string;
  letter: string;
  decimals: number;
}

/** Every stored setting of a kit, in the order of the store. @throws {Error} when the kit names none of its numbers */
export function storedSettings(kit: Kit): StoredSetting[] {
  return kit.stored.flatMap(({ say, words, decimals }) =>
    Object.entries(words).map(([letter, key]) => {
      const option = kit.options.find((entry) => entry.key === key);
      if (option?.kind !== 'number')
        throw new Error(`${kit.id} stores "${key}", which is no number of its options`);
      return { option, say, letter, decimals };
    }),
  );
}

/** Mark, sequence, layout and sum before the values of a slot. */
const HEAD_BYTES = 16;
const SLOTS = 2;

/** What the stored settings take of a board's store, in bytes: two slots take turns. */
export const storedBytes = (kit: Kit): number => SLOTS * (HEAD_BYTES + 4 * storedSettings(kit).length);

/** Over what decides the layout: another order, letter or set of settings is another layout. 32 bits. */
export function layoutMark(kit: Kit): number {
  const told = storedSettings(kit).map(
    ({ option, say, letter }) => `${option.key} ${option.unit} ${say} ${letter}`,
  );
  return fnv1a(new TextEncoder().encode(told.join('\n')));
}
