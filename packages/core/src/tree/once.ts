/** What is made when it is first asked for, and kept. */
export function once<T>(make: () => T): () => T {
  let made: { is: T } | undefined;
  return () => (made ??= { is: make() }).is;
}
