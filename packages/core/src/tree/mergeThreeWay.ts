import { byId, type Fields, isNamedList, isRecord, type Path } from './path';
import { sameValue } from './sameValue';

/** What a three-way merge gives: the merged value, and the paths where both sides changed the same thing. */
export interface Merged<T> {
  value: T;
  /** Dotted paths at which `ours` was kept although `theirs` changed too. */
  kept: string[];
  /** The same places, step by step; a thing in a list is named by its id. */
  met: Path[];
}

/**
 * Merges two changed copies of one value field by field: what only one side changed is taken from it; where both
 * changed the same field, `ours` stays and the path is told. Lists of things with an `id` are merged thing by
 * thing; other lists count as one value.
 */
export function mergeThreeWay<T>(base: T, ours: T, theirs: T): Merged<T> {
  const met: Path[] = [];
  // The merge of three states of one type has that type.
  const value = merge(base, ours, theirs, [], met) as T;
  return { value, kept: met.map((path) => path.join('.')), met };
}

const GONE = Symbol('gone');

function merge(base: unknown, ours: unknown, theirs: unknown, path: Path, met: Path[]): unknown {
  if (sameValue(ours, base)) return theirs;
  if (sameValue(theirs, base) || sameValue(theirs, ours)) return ours;
  if (isRecord(base) && isRecord(ours) && isRecord(theirs))
    return mergeRecords(base, ours, theirs, path, met);
  if (isNamedList(base) && isNamedList(ours) && isNamedList(theirs)) {
    const merged = mergeRecords(byId(base), byId(ours), byId(theirs), path, met);
    const order = [...theirs, ...ours].map((item) => item.id);
    return [...new Set(order)].filter((id) => id in merged).map((id) => merged[id]);
  }
  met.push(path);
  return ours;
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
