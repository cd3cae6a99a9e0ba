import { fnv1a } from '@jolly/core/bytes/fnv1a';
import { storedName, storedSettings } from '@jolly/core/kit/storedSettings';
import type { Facts } from '@jolly/core/machine/facts';

const MARK = 0x4c;
const SEQUENCE = 1;

/** A store that holds settings of long ago: X moves twice as far as the image was built for. As store.c lays them. */
export function staleStore({ kit, chip }: Facts): Uint8Array {
  const rows = storedSettings(kit);
  const names = Uint16Array.from(rows, ({ option }) => storedName(option));
  const values = Float32Array.from(rows, ({ option }) =>
    option.key === 'steps.x' ? option.default * 2 : option.default,
  );
  const bytes = new Uint8Array(names.byteLength + values.byteLength);
  bytes.set(new Uint8Array(names.buffer));
  bytes.set(new Uint8Array(values.buffer), names.byteLength);
  const head = new Uint8Array(Uint32Array.of(MARK, SEQUENCE, rows.length, fnv1a(bytes, SEQUENCE)).buffer);
  const store = new Uint8Array(chip.store.bytes).fill(0xff);
  store.set(head);
  store.set(bytes, head.length);
  return store;
}
