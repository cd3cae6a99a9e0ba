import { HEADER_BYTES } from '../image/imageHeader';

export interface SourceSize {
  name: string;
  /** Of flash. */
  bytes: number;
  /** Of RAM, beside what is also counted in flash; missing in builds of before it was told. */
  ram?: number;
}

/** What a linked image takes, read from the image itself and the linker's map. */
export interface Sizes {
  flashBytes: number;
  /** Static data plus the reserved stack. */
  ramBytes: number;
  stackBytes: number;
  /** Of code and tables by source file, largest first. */
  bySource: SourceSize[];
}

const MAP_LINE = /^\s*(-|[0-9a-f]+)\s+([0-9a-f]+)\s+([0-9a-f]+)\s+(\S.*)$/;
const PIECE = /^(\S+\.o):\((.*)\)$/;
/** The one object that all sources became when they were compiled once more as one. */
const AS_ONE = /\.lto\.o$/;
/** Where it cannot be said which source a piece came from. */
const SHARED = '(of several sources)';
/** Words and constants of all sources, which the linker keeps once each. */
const MERGED = '<internal>:(.rodata)';
const WORDS = '(words)';
/** Lines of the map that begin a section, and those of sections that lie in RAM. */
const SECTION = /^(?:[A-Z]+|\.(?:rodata|data|bss))$/;
const IN_MEMORY = /^\.(?:data|bss|rodata)/;
/** Objects of all folders lie side by side: `motion-planner.o` is made of `motion/planner.c`. */
const sourceOf = (object: string) => object.replace(/\.o$/, '.c').replaceAll('-', '/');

function sourceOfPiece(name: string, sources: ReadonlyMap<string, string>): string | undefined {
  if (name === MERGED) return WORDS;
  const [, object, section = ''] = PIECE.exec(name) ?? [];
  if (object === undefined) return undefined;
  return AS_ONE.test(object) ? sourceOfSection(section, sources) : sourceOf(object);
}

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
  const bySource = new Map<string, { bytes: number; ram: number }>();
  let ramBytes = stackBytes;
  let within = '';
  for (const line of map.split('\n')) {
    const match = MAP_LINE.exec(line);
    if (!match) continue;
    const [, address = '-', , size = '0', name = ''] = match;
    const bytes = parseInt(size, 16);
    if (SECTION.test(name)) within = name;
    if (address !== '-' && IN_MEMORY.test(name)) ramBytes = Math.max(ramBytes, parseInt(address, 16) + bytes);
    const source = sourceOfPiece(name, sources);
    if (source === undefined) continue;
    const sum = bySource.get(source) ?? { bytes: 0, ram: 0 };
    // What begins as nothing takes no flash.
    sum[within === '.bss' ? 'ram' : 'bytes'] += bytes;
    bySource.set(source, sum);
  }
  return {
    flashBytes: HEADER_BYTES + imageCodeBytes,
    ramBytes,
    stackBytes,
    bySource: [...bySource].map(([name, sum]) => ({ name, ...sum })).sort((a, b) => b.bytes - a.bytes),
  };
}
