import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { flatten } from '../formats/segments';
import type { ImageFile } from './imageFile';
import { type ImageHeader, readImage } from './imageHeader';

export interface Plausibility {
  verdict: 'fits' | 'doubtful' | 'empty';
  /** What speaks for and against it, most telling first. */
  evidence: string[];
  header?: ImageHeader;
  /** Bytes from the load address on, gaps filled with 0xFF. */
  bytes: Uint8Array;
}

const hex = (value: number) => `0x${value.toString(16)}`;

/**
 * Whether an image can be one of this board's: its header names the board's target and address, or its vector
 * points into this chip's memory; it is not empty, and it fits. A `.bin` says no address and is taken as meant for
 * the load address.
 */
export function plausible(file: ImageFile, board: Board, chip: Chip): Plausibility {
  const route = board.routes[0]!;
  const start = file.format === 'bin' ? 0 : chip.flash_at + route.load_address;
  const bytes = flatten(file.segments, start);
  if (bytes.every((byte) => byte === 0xff))
    return {
      verdict: 'empty',
      evidence: ['every byte is 0xFF: this is an erased flash, not an image'],
      bytes,
    };
  const against: string[] = [];
  if (bytes.length > chip.flash_bytes)
    against.push(`${bytes.length} bytes; the flash of ${chip.name} holds ${chip.flash_bytes}`);
  const before = file.segments.filter((segment) => file.format !== 'bin' && segment.address < start);
  const outside = before.filter((segment) => segment.address < chip.flash_at);
  if (outside.length > 0)
    against.push(
      `bytes at ${hex(outside[0]!.address)}, outside the flash, which begins at ${hex(chip.flash_at)}`,
    );
  const read = readImage(bytes);
  if ('header' in read) {
    const { header } = read;
    if (header.target !== route.target)
      against.push(`its header is for ${header.target}; this board is ${route.target}`);
    if (header.loadAddress !== route.load_address)
      against.push(
        `its header begins at ${hex(header.loadAddress)}; this board starts images at ${hex(route.load_address)}`,
      );
    return {
      verdict: against.length > 0 ? 'doubtful' : 'fits',
      evidence: [
        ...against,
        `its header names ${header.name}, build ${header.buildId}, for ${header.target}`,
      ],
      header,
      bytes,
    };
  }
  const vector = vectorProblem(bytes, board, chip);
  if (vector) against.push(vector);
  return {
    verdict: against.length > 0 ? 'doubtful' : 'fits',
    evidence: [
      ...against,
      ...(vector ? [] : [`its vector points into the memory of ${chip.name}`]),
      ...(file.segments.length > 1 ? [`${file.segments.length} pieces with gaps between them`] : []),
      'no header of ours: a foreign image',
    ],
    bytes,
  };
}

/** Why the first words of an image cannot be where this chip starts; undefined when they can. */
function vectorProblem(bytes: Uint8Array, board: Board, chip: Chip): string | undefined {
  if (bytes.length < 8) return `${bytes.length} bytes are too few to hold a vector`;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const load = board.routes[0]!.load_address;
  const inFlash = (address: number) =>
    address >= chip.flash_at + load && address < chip.flash_at + load + chip.flash_bytes;
  if (chip.vector === 'entry') {
    const entry = view.getUint16(0, true);
    return inFlash(entry)
      ? undefined
      : `it would start at ${hex(entry)}, which is not in the flash of ${chip.name} behind its bootloader`;
  }
  const [stack, entry] = [view.getUint32(0, true), view.getUint32(4, true)];
  if (stack <= chip.ram_at || stack > chip.ram_at + chip.ram_bytes)
    return `its stack would start at ${hex(stack)}, outside the RAM of ${chip.name}`;
  return inFlash(entry & ~1)
    ? undefined
    : `it would start at ${hex(entry)}, which is not in the flash of ${chip.name} behind its bootloader`;
}
