import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import { fromBase64 } from './base64';

const POLYNOMIAL = 0xedb88320;
const TABLE = Uint32Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit += 1) value = value & 1 ? (value >>> 1) ^ POLYNOMIAL : value >>> 1;
  return value;
});

/** CRC-32 of bytes as an unsigned number (IEEE 802.3: reflected, initial and final complement). */
export function crc32Of(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) crc = (crc >>> 8) ^ (TABLE[(crc ^ byte) & 0xff] ?? 0);
  return (crc ^ 0xffffffff) >>> 0;
}

/** CRC-32 of base64-encoded bytes, as eight lower-case hexadecimal digits. */
export const crc32 = calculation<{ base64: string }, { hex: string }>(
  'crc32',
  () =>
    Joi.object({
      base64: Joi.string()
        .allow('')
        .base64()
        .max(128 * 2 ** 20),
    }),
  ({ base64 }) => ({ hex: crc32Of(fromBase64(base64)).toString(16).padStart(8, '0') }),
);
