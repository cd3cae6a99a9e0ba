import { boardText } from '../text/boardText';
import { crc32Of } from '../bytes/crc32';

/** What a bootloader reads before it lets an image run. Text fields are ASCII, cut to their room. */
export interface ImageHeader {
  kitVersion: string;
  target: string;
  loadAddress: number;
  buildId: string;
  name: string;
}

/** Bytes the header takes in front of the code. */
export const HEADER_BYTES = 96;
const MAGIC = 0x3147434a; // "JCG1" read as a little-endian word
const AT = {
  magic: 0,
  loadAddress: 4,
  length: 8,
  codeCrc: 12,
  kitVersion: 16,
  target: 28,
  buildId: 52,
  name: 60,
  headerCrc: 92,
};
const ROOM = { kitVersion: 12, target: 24, buildId: 8, name: 32 };

/** Puts a header in front of code. All numbers are little-endian 32-bit words. */
export function makeImage(header: ImageHeader, code: Uint8Array): Uint8Array {
  const image = new Uint8Array(HEADER_BYTES + code.length);
  const view = new DataView(image.buffer);
  view.setUint32(AT.magic, MAGIC, true);
  view.setUint32(AT.loadAddress, header.loadAddress, true);
  view.setUint32(AT.length, code.length, true);
  view.setUint32(AT.codeCrc, crc32Of(code), true);
  for (const field of ['kitVersion', 'target', 'buildId', 'name'] as const)
    putText(image, AT[field], ROOM[field], header[field]);
  view.setUint32(AT.headerCrc, crc32Of(image.subarray(0, AT.headerCrc)), true);
  image.set(code, HEADER_BYTES);
  return image;
}

export type ImageProblem = 'empty' | 'no header' | 'header damaged' | 'cut short' | 'code damaged';
export type ReadImage = { header: ImageHeader; code: Uint8Array } | { problem: ImageProblem };

/** Reads an image back, checking magic, length and both CRCs. Any bytes may be given. */
export function readImage(image: Uint8Array): ReadImage {
  if (image.length === 0 || image.every((byte) => byte === 0xff)) return { problem: 'empty' };
  if (image.length < HEADER_BYTES) return { problem: 'no header' };
  const view = new DataView(image.buffer, image.byteOffset, image.byteLength);
  if (view.getUint32(AT.magic, true) !== MAGIC) return { problem: 'no header' };
  if (view.getUint32(AT.headerCrc, true) !== crc32Of(image.subarray(0, AT.headerCrc)))
    return { problem: 'header damaged' };
  const length = view.getUint32(AT.length, true);
  const code = image.subarray(HEADER_BYTES, HEADER_BYTES + length);
  if (code.length < length) return { problem: 'cut short' };
  if (view.getUint32(AT.codeCrc, true) !== crc32Of(code)) return { problem: 'code damaged' };
  const text = (field: keyof typeof ROOM) => getText(image, AT[field], ROOM[field]);
  return {
    header: {
      kitVersion: text('kitVersion'),
      target: text('target'),
      loadAddress: view.getUint32(AT.loadAddress, true),
      buildId: text('buildId'),
      name: text('name'),
    },
    code,
  };
}

function putText(into: Uint8Array, at: number, room: number, text: string): void {
  into.set(new TextEncoder().encode(boardText(text, room)), at);
}

function getText(from: Uint8Array, at: number, room: number): string {
  const bytes = from.subarray(at, at + room);
  const end = bytes.indexOf(0);
  return String.fromCharCode(...bytes.subarray(0, end < 0 ? room : end));
}
