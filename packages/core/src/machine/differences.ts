import { sameValue } from '../tree/sameValue';

export type Path = (string | number)[];
/** One value that differs between two states; a side without it has none. */
export interface Difference {
  path: Path;
  from?: unknown;
  to?: unknown;
}

type Fields = Record<string, unknown>;
interface Named {
  id: string;
}
const isRecord = (value: unknown): value is Fields =>
  value !== null && typeof value === 'object' && !Array.isArray(value);
const isNamedList = (value: unknown): value is Named[] =>
  Array.isArray(value) &&
  value.length > 0 &&
  value.every((item) => isRecord(item) && typeof item['id'] === 'string');

/** Records that are one thing: taken or left as a whole. */
const WHOLE = (path: Path) =>
  (path[0] === 'settings' && path.length === 2) ||
  (path[0] === 'harness' && path.length === 2) ||
  (path[0] === 'axes' && path.length === 2) ||
  (path[0] === 'waivers' && path.length === 2) ||
  path[0] === 'bed_map';

/**
 * Every value that differs between two states of a machine, in the order of the second. Lists of things with an id
 * are compared thing by thing (their path holds the id); a setting, a landing or a drive counts as one value, so
 * that none is taken by half.
 */
export function differences(from: unknown, to: unknown, path: Path = []): Difference[] {
  if (sameValue(from, to)) return [];
  if (!WHOLE(path)) {
    if (isRecord(from) && isRecord(to)) return ofRecords(from, to, path);
    if (isNamedList(from) && isNamedList(to)) return ofRecords(byId(from), byId(to), path);
  }
  return [{ path, ...(from !== undefined && { from }), ...(to !== undefined && { to }) }];
}

const byId = (list: Named[]): Fields => Object.fromEntries(list.map((item) => [item.id, item]));

function ofRecords(from: Fields, to: Fields, path: Path): Difference[] {
  const keys = [...Object.keys(to), ...Object.keys(from).filter((key) => !Object.hasOwn(to, key))];
  return keys.flatMap((key) => differences(from[key], to[key], [...path, key]));
}

/** The value at a path, things in a list found by their id; undefined where there is none. */
export function valueAt(state: unknown, path: Path): unknown {
  return path.reduce<unknown>((node, step) => {
    if (Array.isArray(node)) return (node as Named[]).find(({ id }) => id === step) ?? node[Number(step)];
    return isRecord(node) ? node[String(step)] : undefined;
  }, state);
}

/** A place in a machine file as far as one may choose about it: a setting or a landing is taken whole. */
export const choosable = (path: Path): Path =>
  path[0] === 'settings' || path[0] === 'harness' || path[0] === 'waivers' ? path.slice(0, 2) : path;

/** A state with some of its differences taken over, each found again by its path. */
export function takeOver<T>(state: T, taken: readonly Difference[]): T {
  return taken.reduce<unknown>((now, { path, to }) => put(now, path, to), state) as T;
}

function put(node: unknown, [key, ...rest]: Path, value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(node)) {
    const list = node as Named[];
    const at = list.findIndex((item) => item.id === key);
    if (at < 0) return value === undefined || rest.length > 0 ? list : [...list, value];
    if (rest.length === 0 && value === undefined) return list.filter((_, index) => index !== at);
    return list.map((item, index) => (index === at ? put(item, rest, value) : item));
  }
  const fields = isRecord(node) ? node : {};
  if (rest.length === 0 && value === undefined) {
    const { [String(key)]: _gone, ...others } = fields;
    return others;
  }
  return { ...fields, [key]: put(fields[String(key)], rest, value) };
}
