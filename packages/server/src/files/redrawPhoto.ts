import { LARGEST_PHOTO } from '@jolly/contract/endpoints/photos';

/** A picture as it is kept: drawn anew, so that nothing is in it but the picture. */
export interface Photo {
  type: 'image/jpeg' | 'image/png';
  width: number;
  height: number;
  bytes: Uint8Array;
}

const LARGEST_SIDE = 8192;
/** Longest side that is kept, in pixels; the print on a connector can still be read. */
const KEPT_SIDE = 3000;
const LIMIT_S = 20;
/** How a JPEG and a PNG begin. Nothing else reaches the library, which reads a dozen formats more. */
const MARKS = [
  [0xff, 0xd8, 0xff],
  [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
];
const NO_PICTURE = 'this is not a picture; JPEG and PNG are read';
const TYPES = { jpeg: 'image/jpeg', png: 'image/png' } as const;

/**
 * Decodes a JPEG or PNG and draws it anew: camera data, place, thumbnails, comments, films and second pictures behind
 * the first are gone, because only the first picture's points are written. Any bytes may be given.
 */
export async function redrawPhoto(bytes: Uint8Array): Promise<Photo | { problem: string }> {
  if (bytes.length === 0) return { problem: 'the file is empty (0 bytes)' };
  if (bytes.length > LARGEST_PHOTO)
    return { problem: `the picture has ${bytes.length} bytes; at most ${LARGEST_PHOTO} (6 MB) are kept` };
  if (!MARKS.some((mark) => mark.every((byte, index) => bytes[index] === byte)))
    return { problem: NO_PICTURE };
  // A start without pictures does not wait for it.
  const { default: sharp } = await import('sharp');
  try {
    const picture = sharp(bytes, { limitInputPixels: LARGEST_SIDE ** 2, pages: 1 });
    const { format, width, height } = await picture.metadata();
    if (format !== 'jpeg' && format !== 'png') return { problem: NO_PICTURE };
    if (width > LARGEST_SIDE || height > LARGEST_SIDE)
      return {
        problem: `the picture is ${width} × ${height}; each side may have 1 to ${LARGEST_SIDE} pixels`,
      };
    const { data, info } = await picture
      .timeout({ seconds: LIMIT_S })
      .autoOrient()
      .resize({ width: KEPT_SIDE, height: KEPT_SIDE, fit: 'inside', withoutEnlargement: true })
      .toFormat(format, format === 'jpeg' ? { quality: 88 } : {})
      .toBuffer({ resolveWithObject: true });
    return { type: TYPES[format], width: info.width, height: info.height, bytes: new Uint8Array(data) };
  } catch {
    return { problem: 'the picture is cut short or damaged' };
  }
}
