/** A FAT32 card as a board reads it: blocks of 512 bytes. */
export interface CardBlocks {
  /** Fills `into` with a block; false when there is no such block. */
  read(block: number, into: Uint8Array): boolean;
  write(block: number, from: Uint8Array): boolean;
  /** Names in its root as FAT keeps them: eight letters and three. */
  names(): string[];
}
export interface PrintFile {
  name: string;
  bytes: Uint8Array;
}

export const BLOCK_BYTES = 512;
const PER_CLUSTER = 8;
const CLUSTER_BYTES = PER_CLUSTER * BLOCK_BYTES;
/** Where the one partition begins, and what lies before its FATs. */
const BOOT = 2048;
const RESERVED = 32;
const FATS = 2;
const BLOCKS_A_FAT = 1024;
const ROOT = 2;
const END = 0x0fffffff;
const ENTRY_BYTES = 32;
const DATA = BOOT + RESERVED + FATS * BLOCKS_A_FAT;
const BLOCKS = DATA + ((BLOCKS_A_FAT * BLOCK_BYTES) / 4 - 2) * PER_CLUSTER;

/** The first block of a cluster. */
const blockOf = (cluster: number) => DATA + (cluster - ROOT) * PER_CLUSTER;

/** The short name of a file as FAT keeps it: eight letters and three, in capitals, filled with spaces. */
export function shortName(name: string): string {
  const [, stem = '', ending = ''] = /^(.*?)(?:\.([^.]*))?$/.exec(name) ?? [];
  const plain = (text: string, length: number) =>
    text.toUpperCase().replace(/[^A-Z0-9_-]/g, '_').slice(0, length).padEnd(length); // prettier-ignore
  return plain(stem, 8) + plain(ending, 3);
}

/**
 * A card with these files in its root, formatted as FAT32 behind a partition table, and what was written on it since. It
 * stays as the board leaves it.
 * @throws {RangeError} when the files do not fit
 */
export function cardBlocks(
  files: readonly PrintFile[],
  written: ReadonlyMap<number, Uint8Array> = new Map(),
  onWrite?: (block: number, bytes: Uint8Array) => void,
): CardBlocks {
  const blocks = new Map<number, Uint8Array>();
  const at = (block: number): DataView => {
    const bytes = blocks.get(block) ?? new Uint8Array(BLOCK_BYTES);
    blocks.set(block, bytes);
    return new DataView(bytes.buffer);
  };
  const link = (cluster: number, next: number) => {
    const place = cluster * 4;
    for (let copy = 0; copy < FATS; copy += 1)
      at(BOOT + RESERVED + copy * BLOCKS_A_FAT + Math.floor(place / BLOCK_BYTES)).setUint32(
        place % BLOCK_BYTES,
        next,
        true,
      );
  };
  partitionTable(at(0));
  bootSector(at(BOOT));
  for (const [cluster, value] of [0x0ffffff8, END, END].entries()) link(cluster, value);
  let free = ROOT + 1;
  for (const [index, { name, bytes }] of files.entries()) {
    const clusters = Math.max(1, Math.ceil(bytes.length / CLUSTER_BYTES));
    if (index >= CLUSTER_BYTES / ENTRY_BYTES || blockOf(free + clusters) > BLOCKS)
      throw new RangeError('the files do not fit on the card');
    writeEntry(at(blockOf(ROOT) + Math.floor((index * ENTRY_BYTES) / BLOCK_BYTES)), (index * ENTRY_BYTES) % BLOCK_BYTES, name, free, bytes.length); // prettier-ignore
    for (let block = 0; block * BLOCK_BYTES < bytes.length; block += 1)
      new Uint8Array(at(blockOf(free) + block).buffer).set(bytes.subarray(block * BLOCK_BYTES, (block + 1) * BLOCK_BYTES)); // prettier-ignore
    for (let nth = 0; nth < clusters; nth += 1) link(free + nth, nth + 1 < clusters ? free + nth + 1 : END);
    free += clusters;
  }
  for (const [block, bytes] of written) blocks.set(block, bytes);
  return {
    read(block, into) {
      if (block >= BLOCKS) return false;
      into.set(blocks.get(block) ?? new Uint8Array(BLOCK_BYTES));
      return true;
    },
    names() {
      const root = new Uint8Array(CLUSTER_BYTES);
      for (let block = 0; block < PER_CLUSTER; block += 1)
        root.set(blocks.get(blockOf(ROOT) + block) ?? [], block * BLOCK_BYTES);
      return Array.from({ length: CLUSTER_BYTES / ENTRY_BYTES }, (_, entry) =>
        String.fromCharCode(...root.subarray(entry * ENTRY_BYTES, entry * ENTRY_BYTES + 11)),
      ).filter((name) => name.charCodeAt(0) !== 0);
    },
    write(block, from) {
      if (block >= BLOCKS) return false;
      const bytes = from.slice();
      blocks.set(block, bytes);
      onWrite?.(block, bytes);
      return true;
    },
  };
}

/** One partition of FAT32 addressed by blocks. */
function partitionTable(block: DataView): void {
  block.setUint8(446 + 4, 0x0c);
  block.setUint32(446 + 8, BOOT, true);
  block.setUint32(446 + 12, BLOCKS - BOOT, true);
  block.setUint16(510, 0xaa55, true);
}

function bootSector(block: DataView): void {
  block.setUint8(0, 0xeb);
  block.setUint16(11, BLOCK_BYTES, true);
  block.setUint8(13, PER_CLUSTER);
  block.setUint16(14, RESERVED, true);
  block.setUint8(16, FATS);
  block.setUint32(32, BLOCKS - BOOT, true);
  block.setUint32(36, BLOCKS_A_FAT, true);
  block.setUint32(44, ROOT, true);
  block.setUint16(510, 0xaa55, true);
}

function writeEntry(block: DataView, place: number, name: string, cluster: number, length: number): void {
  const letters = shortName(name);
  for (let index = 0; index < letters.length; index += 1)
    block.setUint8(place + index, letters.charCodeAt(index));
  block.setUint16(place + 20, cluster >>> 16, true);
  block.setUint16(place + 26, cluster & 0xffff, true);
  block.setUint32(place + 28, length, true);
}
