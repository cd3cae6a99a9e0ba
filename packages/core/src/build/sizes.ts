import { HEADER_BYTES } from '../image/imageHeader';

export interface SectionSize {
  name: string;
  bytes: number;
}

/** What a linked image takes, read from the image itself and the linker's map. */
export interface Sizes {
  flashBytes: number;
  /** Static data plus the reserved stack. */
  ramBytes: number;
  stackBytes: number;
  /** Bytes of code by source file, largest first. */
  bySource: SectionSize[];
}

const MAP_LINE = /^\s*(-|[0-9a-f]+)\s+([0-9a-f]+)\s+([0-9a-f]+)\s+(\S.*)$/;
const OBJECT = /^\s{8}(\S+\.o):\((.*)\)$/;
/** Objects of all folders lie side by side: `motion-planner.o` is made of `motion/planner.c`. */
const sourceOf = (object: string) => object.replace(/\.o$/, '.c').replaceAll('-', '/');

/**
 * Sizes from the linker's map (columns: address, file offset, size in hexadecimal, then the name). RAM is the
 * end of the static data, which lies above the stack; the code of each object file is summed.
 */
export function sizesOf(map: string, imageCodeBytes: number, stackBytes: number): Sizes {
  const bySource = new Map<string, number>();
  let ramBytes = stackBytes;
  for (const line of map.split('\n')) {
    const match = MAP_LINE.exec(line);
    if (!match) continue;
    const [, address = '-', , size = '0', name = ''] = match;
    const bytes = parseInt(size, 16);
    const object = OBJECT.exec(line.slice(line.indexOf(name) - 8));
    const found = object?.[1] ?? /(\S+\.o):\(/.exec(name)?.[1];
    const source = found && sourceOf(found);
    if (source) bySource.set(source, (bySource.get(source) ?? 0) + bytes);
    if (address !== '-' && /^\.(data|bss|rodata)/.test(name))
      ramBytes = Math.max(ramBytes, parseInt(address, 16) + bytes);
  }
  return {
    flashBytes: HEADER_BYTES + imageCodeBytes,
    ramBytes,
    stackBytes,
    bySource: [...bySource].map(([name, bytes]) => ({ name, bytes })).sort((a, b) => b.bytes - a.bytes),
  };
}
