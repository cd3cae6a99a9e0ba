import { optionOf } from './optionOf';
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
      const option = optionOf(kit, key);
      if (option?.kind !== 'number')
        throw new Error(`${kit.id} stores "${key}", which is no number of its options`);
      return { option, say, letter, decimals };
    }),
  );
}

/** The room of one slot; two take turns. In it: mark, sequence, count, sum; the names; the values. See store.c. */
const SLOT_BYTES = 400;
const HEAD_BYTES = 16;
const NAME_BYTES = 2;
const VALUE_BYTES = 4;

/** What the stored settings take of a board's store, in bytes: to the end of the second slot's values. */
export const storedBytes = (kit: Kit): number =>
  SLOT_BYTES + HEAD_BYTES + (NAME_BYTES + VALUE_BYTES) * storedSettings(kit).length;

/** By which a value is found again in a store that another image wrote: 16 bits over key and unit. */
export const storedName = ({ key, unit }: NumberOption): number =>
  fnv1a(new TextEncoder().encode(`${key} ${unit}`)) & 0xffff;
