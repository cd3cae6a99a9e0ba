import { CalcError } from '../calculation/calculation';
import { readHex } from '../bytes/intelHex';
import type { Segment } from '../bytes/segments';
import { looksLikeUf2, readUf2 } from '../bytes/uf2';

export const IMAGE_FORMATS = ['bin', 'hex', 'uf2'] as const;
export type ImageFormat = (typeof IMAGE_FORMATS)[number];
/** Largest image file read. The boards of the catalogue hold far less. */
export const LARGEST_IMAGE = 16 * 2 ** 20;

export interface ImageFile {
  format: ImageFormat;
  /** A `.bin` says no address: its one segment begins at 0 and is meant for the load address. */
  segments: Segment[];
  family?: number;
}

/** Reads an image file of any of the three formats, told apart by what is in it. Any bytes may be given. */
export function readImageFile(bytes: Uint8Array): ImageFile | { problem: string } {
  if (bytes.length === 0) return { problem: 'the file is empty (0 bytes)' };
  if (bytes.length > LARGEST_IMAGE)
    return { problem: `the file has ${bytes.length} bytes; an image has at most ${LARGEST_IMAGE} (16 MB)` };
  try {
    if (looksLikeUf2(bytes)) return { format: 'uf2', ...readUf2(bytes) };
    if (looksLikeHex(bytes)) return { format: 'hex', segments: readHex(new TextDecoder().decode(bytes)) };
  } catch (error) {
    if (error instanceof CalcError) return { problem: error.message };
    throw error;
  }
  return { format: 'bin', segments: [{ address: 0, bytes }] };
}

/** A colon and hexadecimal digits, after white space at most. */
function looksLikeHex(bytes: Uint8Array): boolean {
  return /^\s*:[0-9A-Fa-f]{10}/.test(new TextDecoder().decode(bytes.subarray(0, 64)));
}
