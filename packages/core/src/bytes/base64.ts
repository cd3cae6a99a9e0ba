const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUE = new Map([...ALPHABET].map((letter, index) => [letter, index]));

/** Bytes of a base64 text (RFC 4648, padding optional). Letters outside the alphabet end it. */
export function fromBase64(text: string): Uint8Array {
  const clean = text.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((clean.length * 6) / 8));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (const letter of clean) {
    held = ((held << 6) | (VALUE.get(letter) ?? 0)) & 0xffffff;
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      bytes[at] = (held >> bits) & 0xff;
      at += 1;
    }
  }
  return bytes;
}

/** Base64 text of bytes (RFC 4648, padded). */
export function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let i = 0; i < bytes.length; i += 3) {
    const group = ((bytes[i] ?? 0) << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    const letters = [18, 12, 6, 0].map((shift) => ALPHABET[(group >> shift) & 63] ?? '');
    const kept = Math.min(4, bytes.length - i + 1);
    parts.push(letters.slice(0, kept).join('').padEnd(4, '='));
  }
  return parts.join('');
}
