import { looksLikeUf2, readUf2 } from '@jolly/core/bytes/uf2';
import type { FlashMemory } from './flashMemory';
import type { Listener } from './talk';

/** A sector of the drive, and a block of the file. */
export const SECTOR = 512;
/** What the drive says to a sector: taken, left alone, and that it goes away because it has everything. */
export const TAKEN = 1;
export const LEFT_ALONE = 2;
export const GONE = 3;

/**
 * The chip as a drive: sectors of a file come in any order; blocks for its family are written where they say, others are left
 * alone. With the last of them it leaves.
 */
export function driveListener(memory: FlashMemory, flashAt: number, family: number | undefined): Listener {
  let sector: number[] = [];
  const had = new Set<number>();
  function take(bytes: Uint8Array): number {
    const view = new DataView(bytes.buffer);
    if (!looksLikeUf2(bytes)) return LEFT_ALONE;
    const [number, total] = [view.getUint32(20, true), view.getUint32(24, true)];
    const block = blockOf(bytes);
    if (!block || (family !== undefined && block.family !== family)) return LEFT_ALONE;
    const at = block.address - flashAt;
    if (at < memory.ends || !writeInto(memory, at, block.bytes)) return LEFT_ALONE;
    had.add(number);
    return had.size === total ? GONE : TAKEN;
  }
  return {
    hear(byte) {
      sector.push(byte);
      if (sector.length < SECTOR) return [];
      const bytes = Uint8Array.from(sector);
      sector = [];
      return [take(bytes)];
    },
  };
}

/** One block by itself, as if the file had no other. */
function blockOf(bytes: Uint8Array): { address: number; bytes: Uint8Array; family?: number } | undefined {
  const alone = bytes.slice();
  const view = new DataView(alone.buffer);
  view.setUint32(20, 0, true);
  view.setUint32(24, 1, true);
  try {
    const { segments, family } = readUf2(alone);
    const [segment] = segments;
    return segment && { ...segment, ...(family !== undefined && { family }) };
  } catch {
    return undefined;
  }
}

/** Blocks and pages differ in size: what a page held beside the block stays. */
function writeInto(memory: FlashMemory, at: number, bytes: Uint8Array): boolean {
  const { pageBytes } = memory;
  for (let done = 0; done < bytes.length;) {
    const offset = (at + done) % pageBytes;
    const page = at + done - offset;
    const part = bytes.subarray(done, done + pageBytes - offset);
    const whole = memory.read(page, pageBytes);
    whole.set(part, offset);
    if (!memory.erase(page) || !memory.write(page, whole)) return false;
    done += part.length;
  }
  return true;
}
