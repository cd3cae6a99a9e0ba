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
const PIECE = /^(\S+\.o):\((.*)\)$/;
/** The one object that all sources became when they were compiled once more as one. */
const AS_ONE = /\.lto\.o$/;
/** Where it cannot be said which source a piece came from. */
const SHARED = '(of several sources)';
/** Objects of all folders lie side by side: `motion-planner.o` is made of `motion/planner.c`. */
const sourceOf = (object: string) => object.replace(/\.o$/, '.c').replaceAll('-', '/');

/** A section is named by what it holds; a name that several sources use has got a number behind it. */
function sourceOfSection(section: string, sources: ReadonlyMap<string, string>): string {
  const name = section.replace(/^\.(?:text|rodata|data|bss)\./, '').replace(/\.\d+$/, '');
  return sources.get(name) ?? SHARED;
}

/**
 * Sizes from the linker's map (columns: address, file offset, size in hexadecimal, then the name). RAM is the
 * end of the static data, which lies above the stack; the code of each object file is summed.
 */
export function sizesOf(
  map: string,
  imageCodeBytes: number,
  stackBytes: number,
  /** Sources by the name they define, for an image that was linked as one. */
  sources: ReadonlyMap<string, string> = new Map(),
): Sizes {
  const bySource = new Map<string, number>();
  let ramBytes = stackBytes;
  for (const line of map.split('\n')) {
    const match = MAP_LINE.exec(line);
    if (!match) continue;
    const [, address = '-', , size = '0', name = ''] = match;
    const bytes = parseInt(size, 16);
    const [, object, section = ''] = PIECE.exec(name) ?? [];
    const source = object === undefined ? undefined : AS_ONE.test(object) ? sourceOfSection(section, sources) : sourceOf(object); // prettier-ignore
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
