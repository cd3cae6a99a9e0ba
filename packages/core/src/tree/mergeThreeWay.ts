import { sameValue } from './sameValue';

/** What a three-way merge gives: the merged value, and the paths where both sides changed the same thing. */
export interface Merged<T> {
  value: T;
  /** Dotted paths at which `ours` was kept although `theirs` changed too. */
  kept: string[];
  /** The same places, step by step; a thing in a list is named by its id. */
  met: (string | number)[][];
}

/**
 * Merges two changed copies of one value field by field: what only one side changed is taken from it; where both
 * changed the same field, `ours` stays and the path is told. Lists of things with an `id` are merged thing by
 * thing; other lists count as one value.
 */
export function mergeThreeWay<T>(base: T, ours: T, theirs: T): Merged<T> {
  const met: (string | number)[][] = [];
  const value = merge(base, ours, theirs, [], met) as T;
  return { value, kept: met.map((path) => path.join('.')), met };
}

type Path = (string | number)[];
const GONE = Symbol('gone');

function merge(base: unknown, ours: unknown, theirs: unknown, path: Path, met: Path[]): unknown {
  if (sameValue(ours, base)) return theirs;
  if (sameValue(theirs, base) || sameValue(theirs, ours)) return ours;
  if ([base, ours, theirs].every(isRecord))
    return mergeRecords(base as Fields, ours as Fields, theirs as Fields, path, met);
  if ([base, ours, theirs].every(isNamedList)) {
    const merged = mergeRecords(byId(base), byId(ours), byId(theirs), path, met);
    const order = [...(theirs as Named[]), ...(ours as Named[])].map((item) => item.id);
    return [...new Set(order)].filter((id) => id in merged).map((id) => merged[id]);
  }
  met.push(path);
  return ours;
}

type Fields = Record<string, unknown>;
interface Named {
  id: string;
}

function mergeRecords(base: Fields, ours: Fields, theirs: Fields, path: Path, met: Path[]): Fields {
  const merged: Fields = {};
  for (const key of new Set([...Object.keys(theirs), ...Object.keys(ours)])) {
    const at = [...path, key];
    const value = merge(pick(base, key), pick(ours, key), pick(theirs, key), at, met);
    if (value !== GONE) merged[key] = value;
  }
  return merged;
}

const pick = (fields: Fields, key: string): unknown => (Object.hasOwn(fields, key) ? fields[key] : GONE);
const isRecord = (value: unknown) => value !== null && typeof value === 'object' && !Array.isArray(value);
const isNamedList = (value: unknown) =>
  Array.isArray(value) &&
  value.every((item) => isRecord(item) && typeof (item as Partial<Named>).id === 'string');
const byId = (list: unknown): Fields => Object.fromEntries((list as Named[]).map((item) => [item.id, item]));
