import { crc32Of } from './crc32';

const UTF8 = new TextEncoder();

/** CRC-32 of a text's UTF-8 bytes, as eight lower-case hexadecimal digits. */
export const textSum = (text: string): string => crc32Of(UTF8.encode(text)).toString(16).padStart(8, '0');
