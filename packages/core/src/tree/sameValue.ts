type Fields = Record<string, unknown>;

/** Whether two plain values are equal; the order of keys does not count, that of lists does. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  // Both are objects, by the lines above.
  const [one, other] = [a as Fields, b as Fields];
  const keys = Object.keys(one);
  return (
    keys.length === Object.keys(other).length &&
    keys.every((key) => Object.hasOwn(other, key) && sameValue(one[key], other[key]))
  );
}
