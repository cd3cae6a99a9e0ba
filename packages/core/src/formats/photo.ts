/** A picture as it is kept: nothing in it but the picture. */
export interface Photo {
  type: 'image/jpeg' | 'image/png';
  width: number;
  height: number;
  bytes: Uint8Array;
}

export const LARGEST_PHOTO = 6 * 2 ** 20;
const LARGEST_SIDE = 8192;

/**
 * Reads a JPEG or PNG and leaves out everything that is not the picture: camera data, place, thumbnails, comments.
 * Any bytes may be given.
 */
export function cleanPhoto(bytes: Uint8Array): Photo | { problem: string } {
  if (bytes.length === 0) return { problem: 'the file is empty (0 bytes)' };
  if (bytes.length > LARGEST_PHOTO)
    return { problem: `the picture has ${bytes.length} bytes; at most ${LARGEST_PHOTO} (6 MB) are kept` };
  const photo = startsWith(bytes, JPEG)
    ? cleanJpeg(bytes)
    : startsWith(bytes, PNG)
      ? cleanPng(bytes)
      : undefined;
  if (!photo) return { problem: 'this is not a picture; JPEG and PNG are read' };
  if ('problem' in photo) return photo;
  const { width, height } = photo;
  return width < 1 || height < 1 || width > LARGEST_SIDE || height > LARGEST_SIDE
    ? { problem: `the picture is ${width} × ${height}; each side may have 1 to ${LARGEST_SIDE} pixels` }
    : photo;
}

const JPEG = [0xff, 0xd8, 0xff];
const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const startsWith = (bytes: Uint8Array, mark: number[]) => mark.every((byte, index) => bytes[index] === byte);

const START_OF_SCAN = 0xda;
/** Frame headers: FFC0 to FFCF without tables (C4), reserved (C8) and conditioning (CC). */
const isFrame = (marker: number) => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
/** Application segments 1 to 15 and comments; segment 0 only says the pixel shape. */
const isExtra = (marker: number) => (marker >= 0xe1 && marker <= 0xef) || marker === 0xfe;

/** JPEG (ISO 10918): segments up to the scan are gone through; what follows the scan is picture. */
function cleanJpeg(bytes: Uint8Array): Photo | { problem: string } {
  const kept: Uint8Array[] = [bytes.subarray(0, 2)];
  let size: { width: number; height: number } | undefined;
  for (let at = 2; at + 4 <= bytes.length;) {
    const marker = bytes[at + 1]!;
    if (bytes[at] !== 0xff) break;
    const end = at + 2 + (bytes[at + 2]! << 8) + bytes[at + 3]!;
    if (end > bytes.length || end < at + 4) break;
    if (isFrame(marker) && at + 9 < bytes.length)
      size = {
        height: (bytes[at + 5]! << 8) | bytes[at + 6]!,
        width: (bytes[at + 7]! << 8) | bytes[at + 8]!,
      };
    if (!isExtra(marker)) kept.push(bytes.subarray(at, marker === START_OF_SCAN ? bytes.length : end));
    if (marker === START_OF_SCAN)
      return size
        ? { type: 'image/jpeg', ...size, bytes: concat(kept) }
        : { problem: 'the picture says no size' };
    at = end;
  }
  return { problem: 'the picture is cut short or damaged' };
}

const PICTURE_CHUNKS = new Set(['IHDR', 'PLTE', 'IDAT', 'IEND', 'tRNS', 'gAMA', 'sRGB', 'cHRM']);

/** PNG (ISO 15948): only the chunks that make the picture are kept. */
function cleanPng(bytes: Uint8Array): Photo | { problem: string } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kept: Uint8Array[] = [bytes.subarray(0, 8)];
  let size: { width: number; height: number } | undefined;
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const end = at + 12 + length;
    if (end > bytes.length) break;
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (name === 'IHDR' && length >= 8)
      size = { width: view.getUint32(at + 8), height: view.getUint32(at + 12) };
    if (PICTURE_CHUNKS.has(name)) kept.push(bytes.subarray(at, end));
    if (name === 'IEND')
      return size
        ? { type: 'image/png', ...size, bytes: concat(kept) }
        : { problem: 'the picture says no size' };
    at = end;
  }
  return { problem: 'the picture is cut short or damaged' };
}

function concat(pieces: Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
