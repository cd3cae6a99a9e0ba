/**
 * Finds a smallest set of changes that fails by itself, by trying: yields sets to try and is told whether each fails. Made
 * for failures that more changes never mend; of others it still answers a set that fails, and none of whose changes can be
 * taken out alone. `items` together fail. After Zeller's delta debugging: halves and their complements, then finer parts.
 */
export function* smallestFailing<T>(items: readonly T[]): Generator<readonly T[], readonly T[], boolean> {
  let left = items;
  let parts = 2;
  while (left.length > 1) {
    const size = Math.ceil(left.length / parts);
    const pieces = Array.from({ length: Math.ceil(left.length / size) }, (_, at) => left.slice(at * size, (at + 1) * size)); // prettier-ignore
    const without =
      pieces.length > 2 ? pieces.map((piece) => left.filter((item) => !piece.includes(item))) : [];
    const smaller = yield* firstFailing([...pieces, ...without]);
    if (smaller) {
      parts = smaller.length > size ? Math.max(2, pieces.length - 1) : 2;
      left = smaller;
    } else if (size === 1) return left;
    else parts = Math.min(left.length, parts * 2);
  }
  return left;
}

function* firstFailing<T>(
  sets: readonly (readonly T[])[],
): Generator<readonly T[], readonly T[] | undefined, boolean> {
  for (const set of sets) if (yield set) return set;
  return undefined;
}
