import { byId, type Fields, isNamedList, isRecord, type Path } from './path';
import { put } from './put';
import { sameValue } from './sameValue';

/** One value that differs between two states; a side without it has none. */
export interface Difference {
  path: Path;
  from?: unknown;
  to?: unknown;
}

/**
 * Every value that differs between two states, in the order of the second. Lists of things with an id are compared
 * thing by thing (their path holds the id), other lists and whatever is `whole` count as one value.
 */
export function differences(
  from: unknown,
  to: unknown,
  whole: (path: Path) => boolean = () => false,
  path: Path = [],
): Difference[] {
  // States share what no change has touched, so most of them is passed over here.
  if (from === to) return [];
  const [was, is] = whole(path) ? [] : fieldsOfBoth(from, to);
  if (was && is) {
    const keys = [...Object.keys(is), ...Object.keys(was).filter((key) => !Object.hasOwn(is, key))];
    return keys.flatMap((key) => differences(was[key], is[key], whole, [...path, key]));
  }
  if (sameValue(from, to)) return [];
  return [{ path, ...(from !== undefined && { from }), ...(to !== undefined && { to }) }];
}

function fieldsOfBoth(from: unknown, to: unknown): [Fields, Fields] | [] {
  if (isRecord(from) && isRecord(to)) return [from, to];
  const things = isNamedList(from) && isNamedList(to) && from.length > 0 && to.length > 0;
  return things ? [byId(from), byId(to)] : [];
}

/** A state with some of its differences taken over, each found again by its path. */
export const takeOver = <T>(state: T, taken: readonly Difference[]): T =>
  // Each difference was found between states of this type, so what comes out is one too.
  taken.reduce<unknown>((now, { path, to }) => put(now, path, to), state) as T;
