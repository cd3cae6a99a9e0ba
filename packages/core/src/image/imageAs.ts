import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { fromBase64, toBase64 } from '../bytes/base64';
import { toHex } from '../bytes/intelHex';
import { inWholeBlocks, toUf2 } from '../bytes/uf2';
import { type ImageFormat, readImageFile } from './imageFile';
import { flashContent } from './plausible';

/**
 * An image as a file of a format, for a programmer, a probe or a drive: at the address it has behind the board's bootloader.
 * What is answered has been read back and puts the same bytes into the flash as the image itself, and 0xFF behind it where a
 * format has whole blocks only.
 * @throws {Error} where it does not: then it would be wrong to hand it out
 */
export function imageAs(format: ImageFormat, image: Uint8Array, board: Board, chip: Chip): Uint8Array {
  const file = written(format, image, chip.flash_at + board.routes[0].load_address, chip.uf2_family);
  const [meant, read] = [contentOf(image, board, chip), contentOf(file, board, chip)];
  if (read.length < meant.length || read.some((byte, at) => byte !== (meant[at] ?? 0xff)))
    throw new Error(`the image written as ${format} is not the same when it is read back`);
  return file;
}

function written(format: ImageFormat, image: Uint8Array, address: number, family?: number): Uint8Array {
  if (format === 'bin') return image;
  // A text ends with the end of its last line; some programmers leave the last record out without it.
  if (format === 'hex')
    return new TextEncoder().encode(`${toHex({ base64: toBase64(image), address }).text}\n`);
  const base64 = toBase64(inWholeBlocks(image));
  return fromBase64(toUf2({ base64, address, ...(family !== undefined && { family }) }).base64);
}

function contentOf(bytes: Uint8Array, board: Board, chip: Chip): Uint8Array {
  const file = readImageFile(bytes);
  if ('problem' in file) throw new Error(`the image cannot be read back: ${file.problem}`);
  const content = flashContent(file, board, chip);
  if ('refused' in content) throw new Error(`the image cannot be read back: ${content.refused}`);
  return content.bytes;
}
