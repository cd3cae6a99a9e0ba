import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { firstOutside, isErased, laidInto, type Memory } from '../bytes/segments';
import { type ImageFile, LARGEST_IMAGE } from './imageFile';
import { HEADER_BYTES, type ImageHeader, type ImageProblem, readImage } from './imageHeader';

export interface Plausibility {
  verdict: 'fits' | 'doubtful' | 'empty';
  /** What speaks for and against it, most telling first. */
  evidence: string[];
  header?: ImageHeader;
}

/** An image of ours that is not whole; without a header of ours it is somebody else's, and judged by its vector. */
const NOT_WHOLE: Partial<Record<ImageProblem, string>> = {
  'header damaged': 'it begins as an image of ours does, and its header is damaged',
  'cut short': 'it has a header of ours and is shorter than that says: it was cut short',
  'code damaged': 'it has a header of ours, and its code is damaged: its sum is another',
};

const hex = (value: number) => `0x${value.toString(16)}`;

/**
 * Whether an image can be one of this board's: its header names the board's target and address, or its vector
 * points into this chip's memory; it is not empty, and it fits. A `.bin` says no address and is taken as meant for
 * the load address.
 */
export function plausible(file: ImageFile, board: Board, chip: Chip): Plausibility {
  const route = board.routes[0];
  if (isErased(file.segments))
    return { verdict: 'empty', evidence: ['every byte is 0xFF: this is an erased flash, not an image'] };
  const against = misplaced(file, board, chip);
  // Read whole, also where the flash is too small for it: what it is stands in its header.
  const bytes = laidInto(file.segments, { ...roomFor(file, board, chip), bytes: LARGEST_IMAGE });
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
    };
  }
  const notWhole = NOT_WHOLE[read.problem];
  if (notWhole !== undefined) return { verdict: 'doubtful', evidence: [...against, notWhole] };
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
  };
}

/** Where an image of this file may lie: behind the bootloader, or from 0 on where the file says no address. */
const roomFor = ({ format }: ImageFile, board: Board, chip: Chip): Memory => ({
  at: format === 'bin' ? 0 : chip.flash_at + board.routes[0].load_address,
  bytes: chip.flash_bytes,
});

/** What lies where the chip has no flash, or is more than it holds. */
export function misplaced(file: ImageFile, board: Board, chip: Chip): string[] {
  const room = roomFor(file, board, chip);
  const end = room.at + room.bytes;
  if (file.format === 'bin') {
    const length = file.segments[0]?.bytes.length ?? 0;
    return length > room.bytes ? [`${length} bytes; the flash of ${chip.name} holds ${room.bytes}`] : [];
  }
  if (file.family !== undefined && chip.uf2_family !== undefined && file.family !== chip.uf2_family)
    return [`blocks for family ${hex(file.family)}; a drive of ${chip.name} takes ${hex(chip.uf2_family)} and leaves others alone`]; // prettier-ignore
  const outside = firstOutside(file.segments, { at: chip.flash_at, bytes: end - chip.flash_at });
  return outside === undefined
    ? []
    : [
        `bytes at ${hex(outside)}, outside the flash of ${chip.name}, which is ${hex(chip.flash_at)} to ${hex(end - 1)}`,
      ];
}

/**
 * What the flash behind the bootloader holds once a programmer has written a file. Refused where the file has bytes
 * outside the chip's flash: they would be lost.
 */
export function flashContent(
  file: ImageFile,
  board: Board,
  chip: Chip,
): { bytes: Uint8Array } | { refused: string } {
  const [refused] = misplaced(file, board, chip);
  if (refused !== undefined) return { refused };
  return { bytes: withoutFill(laidInto(file.segments, roomFor(file, board, chip))) };
}

/** An image of ours without the 0xFF that a format of whole blocks put behind it: it is the same image as before. */
function withoutFill(bytes: Uint8Array): Uint8Array {
  const read = readImage(bytes);
  if (!('header' in read)) return bytes;
  const length = HEADER_BYTES + read.code.length;
  return bytes.subarray(length).every((byte) => byte === 0xff) ? bytes.subarray(0, length) : bytes;
}

/** Why the first words of an image cannot be where this chip starts; undefined when they can. */
function vectorProblem(bytes: Uint8Array, board: Board, chip: Chip): string | undefined {
  if (bytes.length < 8) return `${bytes.length} bytes are too few to hold a vector`;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const begins = chip.flash_at + board.routes[0].load_address;
  const startsAt = (entry: number): string | undefined => {
    if (entry < begins || entry >= begins + chip.flash_bytes)
      return `it would start at ${hex(entry)}, which is not in the flash of ${chip.name} behind its bootloader`;
    return entry - begins < bytes.length
      ? undefined
      : `it would start at ${hex(entry)}, and holds ${bytes.length} bytes from ${hex(begins)} on: it was cut short`;
  };
  if (chip.vector === 'entry') return startsAt(view.getUint16(0, true));
  const [stack, entry] = [view.getUint32(0, true), view.getUint32(4, true)];
  if (stack <= chip.ram_at || stack > chip.ram_at + chip.ram_bytes)
    return `its stack would start at ${hex(stack)}, outside the RAM of ${chip.name}`;
  return startsAt(entry & ~1);
}
