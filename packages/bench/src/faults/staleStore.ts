import { fnv1a } from '@jolly/core/bytes/fnv1a';
import type { Facts } from '@jolly/core/machine/facts';
import { layoutMark, storedSettings } from '@jolly/core/kit/storedSettings';

const MARK = 0x4c;
const HEAD_WORDS = 4;
const SEQUENCE = 1;

/** A store that holds settings of long ago: X moves twice as far as the image was built for. As store.c lays them. */
export function staleStore({ kit, chip }: Facts): Uint8Array {
  const values = Float32Array.from(storedSettings(kit), ({ option }) =>
    option.key === 'steps.x' ? option.default * 2 : option.default,
  );
  const bytes = new Uint8Array(values.buffer);
  const head = Uint32Array.of(MARK, SEQUENCE, layoutMark(kit), fnv1a(bytes, SEQUENCE));
  const store = new Uint8Array(chip.store.bytes).fill(0xff);
  store.set(new Uint8Array(head.buffer));
  store.set(bytes, HEAD_WORDS * 4);
  return store;
}
