/**
 * A value that the code before has made certain: where it is missing after all, the fault is ours and is told by name
 * instead of going on as undefined.
 * @throws {Error} when it is missing
 */
export function certain<T>(value: T | null | undefined, what: string): T {
  if (value === undefined || value === null) throw new Error(`${what} is missing`);
  return value;
}
