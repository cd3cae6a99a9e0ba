/** A number of bytes as a person reads it: `1,234 bytes`. */
export const bytesInWords = (bytes: number): string =>
  `${bytes.toLocaleString('en')} ${bytes === 1 ? 'byte' : 'bytes'}`;
