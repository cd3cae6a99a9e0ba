import type { Facts } from '@jolly/core/machine/facts';
import { layoutMark, storedSettings } from '@jolly/core/kit/storedSettings';

const MARK = 0x4c;
const HEAD_WORDS = 4;

/** A store that holds settings of long ago: X moves twice as far as the image was built for. As store.c lays them. */
export function staleStore({ kit, chip }: Facts): Uint8Array {
  const values = Float32Array.from(storedSettings(kit), ({ option }) =>
    option.key === 'steps.x' ? option.default * 2 : option.default,
  );
  const bytes = new Uint8Array(values.buffer);
  const head = Uint32Array.of(MARK, 1, layoutMark(kit), sumOf(bytes, 1));
  const store = new Uint8Array(chip.store.bytes).fill(0xff);
  store.set(new Uint8Array(head.buffer));
  store.set(bytes, HEAD_WORDS * 4);
  return store;
}

/** FNV-1a over the values, begun with the sequence. */
function sumOf(bytes: Uint8Array, sequence: number): number {
  let sum = (2166136261 ^ sequence) >>> 0;
  for (const byte of bytes) sum = Math.imul(sum ^ byte, 16777619) >>> 0;
  return sum;
}
