const BEGIN = 2166136261;
const PRIME = 16777619;

/** FNV-1a over bytes, 32 bits; `from` begins it another way (exclusive or with the usual begin). */
export function fnv1a(bytes: Uint8Array, from = 0): number {
  let sum = (BEGIN ^ from) >>> 0;
  for (const byte of bytes) sum = Math.imul(sum ^ byte, PRIME) >>> 0;
  return sum;
}
