import { crc32Of } from './crc32';

/** CRC-32 of a text's UTF-8 bytes, as eight lower-case hexadecimal digits. */
export const textSum = (text: string): string =>
  crc32Of(new TextEncoder().encode(text)).toString(16).padStart(8, '0');
