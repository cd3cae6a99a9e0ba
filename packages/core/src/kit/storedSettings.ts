import { optionOf } from './optionOf';
import { fnv1a } from '../bytes/fnv1a';
import type { Kit, NumberOption, StoredLine } from './kit';

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

const keysOf = (kit: Kit, is: (line: StoredLine) => boolean | undefined): ReadonlySet<string> =>
  new Set(kit.stored.filter(is).flatMap(({ words }) => Object.values(words)));

/** Settings whose values a board finds itself: no machine file is held against them. */
export const foundByBoard = (kit: Kit): ReadonlySet<string> => keysOf(kit, ({ own }) => own);

/** Settings that are meant to be stored at the machine: what a board finds itself, and what is set while it prints. */
export const storedAtMachine = (kit: Kit): ReadonlySet<string> => keysOf(kit, ({ own, live }) => own ?? live);

/** The room of one slot; two take turns. In it: mark, sequence, count, sum; the names; the values. See store.c. */
export const SLOT_BYTES = 400;
export const SLOTS = 2;
const MARK = 0x4c;
const HEAD_BYTES = 16;
const NAME_BYTES = 2;
const VALUE_BYTES = 4;
const ENTRY_BYTES = NAME_BYTES + VALUE_BYTES;

/** What the stored settings take of a board's store, in bytes: to the end of the second slot's values. */
export const storedBytes = (kit: Kit): number =>
  SLOT_BYTES + HEAD_BYTES + ENTRY_BYTES * storedSettings(kit).length;

/** By which a value is found again in a store that another image wrote: 16 bits over key and unit. */
export const storedName = ({ key, unit }: NumberOption): number =>
  fnv1a(new TextEncoder().encode(`${key} ${unit}`)) & 0xffff;

/** What lies in a board's store, by option key. */
export type StoredValues = Readonly<Record<string, number>>;

/**
 * Reads a board's store as its firmware does: the newer of the two slots whose sum is right, each value found by its
 * name. Nothing where no slot is whole. A value has the seven digits that its 32 bits hold.
 */
export function readStore(bytes: Uint8Array, kit: Kit): StoredValues {
  const slots = Array.from({ length: SLOTS }, (_, which) => wholeSlot(bytes.subarray(which * SLOT_BYTES)));
  const newest = slots.reduce((best, slot) => (best && (!slot || ((slot.sequence - best.sequence) | 0) < 0) ? best : slot)); // prettier-ignore
  if (!newest) return {};
  const keys = new Map(storedSettings(kit).map(({ option }) => [storedName(option), option.key]));
  return Object.fromEntries(
    newest.entries.flatMap(([name, value]) => {
      const key = keys.get(name);
      return key === undefined ? [] : [[key, value]];
    }),
  );
}

interface Slot {
  sequence: number;
  entries: [name: number, value: number][];
}

function wholeSlot(bytes: Uint8Array): Slot | undefined {
  if (bytes.length < HEAD_BYTES) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number) => view.getUint32(at, true);
  const [sequence, count] = [word(4), word(8)];
  const content = bytes.subarray(HEAD_BYTES, HEAD_BYTES + count * ENTRY_BYTES);
  if (word(0) !== MARK || content.length < count * ENTRY_BYTES || fnv1a(content, sequence) !== word(12)) return undefined; // prettier-ignore
  const values = HEAD_BYTES + count * NAME_BYTES;
  return {
    sequence,
    entries: Array.from({ length: count }, (_, at) => [
      view.getUint16(HEAD_BYTES + at * NAME_BYTES, true),
      Number(view.getFloat32(values + at * VALUE_BYTES, true).toPrecision(7)),
    ]),
  };
}
