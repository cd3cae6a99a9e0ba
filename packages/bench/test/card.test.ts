import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLOCK_BYTES, cardBlocks, type CardBlocks, type PrintFile } from '../src/index';
import { readFat32 } from './fixtures/readFat32';

const letters = fc.string({ unit: fc.constantFrom(...'ABCXYZ0189_-'), minLength: 1, maxLength: 8 });
const files = fc.uniqueArray(
  fc.record({
    name: fc.tuple(letters, fc.constantFrom('GCO', 'G', 'BIN')).map((parts) => parts.join('.')),
    bytes: fc.oneof(
      fc.uint8Array({ maxLength: 30 }),
      // As long as blocks and clusters are, and a byte more or less.
      fc
        .constantFrom(511, 512, 513, 4095, 4096, 4097, 9000)
        .chain((length) => fc.uint8Array({ minLength: length, maxLength: length })),
    ),
  }),
  { selector: ({ name }) => name, maxLength: 12 },
);
const blockOf = (card: CardBlocks, block: number): Uint8Array | undefined => {
  const bytes = new Uint8Array(BLOCK_BYTES);
  return card.read(block, bytes) ? bytes : undefined;
};

describe('a card of the bench is FAT32 as any computer reads it', () => {
  it('with every file byte by byte, and both tables alike', () => {
    fc.assert(
      fc.property(files, (given: PrintFile[]) => {
        const volume = readFat32((block) => blockOf(cardBlocks(given), block));
        expect(volume.files).toEqual(given.map(({ name, bytes }) => ({ name, bytes: [...bytes] })));
        expect(volume.tables[0]).toEqual(volume.tables[1]);
      }),
      { numRuns: 40 },
    );
  });

  it('in one partition of its kind, as large as the table says', () => {
    const card = cardBlocks([]);
    const { partition, volume } = readFat32((block) => blockOf(card, block));
    expect(partition).toEqual({ kind: 0x0c, from: 2048, blocks: volume.blocks });
    expect(volume).toMatchObject({ bytesABlock: 512, fats: 2, root: 2 });
    // Fewer, and the standard takes it for FAT16.
    expect(volume.clusters).toBeGreaterThan(65_525);
    const behind = partition.from + partition.blocks;
    expect(blockOf(card, behind - 1)).toBeDefined();
    expect(blockOf(card, behind)).toBeUndefined();
    expect(card.write(behind - 1, new Uint8Array(BLOCK_BYTES))).toBe(true);
    expect(card.write(behind, new Uint8Array(BLOCK_BYTES))).toBe(false);
  });

  it('keeps what is written on it, tells it, and begins with it again', () => {
    const told = new Map<number, Uint8Array>();
    const card = cardBlocks([], new Map(), (block, bytes) => void told.set(block, bytes));
    const bytes = Uint8Array.from({ length: BLOCK_BYTES }, (_, index) => index & 0xff);
    card.write(5000, bytes);
    expect(blockOf(card, 5000)).toEqual(bytes);
    expect([...told]).toEqual([[5000, bytes]]);
    bytes.fill(0);
    expect(blockOf(card, 5000)?.[7]).toBe(7);
    expect(blockOf(cardBlocks([], told), 5000)?.[7]).toBe(7);
  });

  it('refuses more files than its root takes, and more bytes than there are', () => {
    const many = (count: number) =>
      Array.from({ length: count }, (_, nth) => ({ name: `F${nth}.GCO`, bytes: new Uint8Array(1) }));
    const root = cardBlocks(many(128));
    expect([root.names().length, root.names().at(-1)]).toEqual([128, 'F127    GCO']);
    expect(() => cardBlocks(many(129))).toThrow(RangeError);
    const { volume } = readFat32((block) => blockOf(cardBlocks([]), block));
    const large = { length: (volume.clusters + 1) * 4096 } as Uint8Array;
    expect(() => cardBlocks([{ name: 'LARGE.GCO', bytes: large }])).toThrow(RangeError);
  });
});
