import { isRecord, type Path, placeIn } from './path';

/**
 * A copy of a state with the value at `path` put there, or taken away where it is undefined; what lies beside it is
 * shared with the given state, which stays as it is. A thing that no list has yet is added at its end.
 */
export function put(node: unknown, [step, ...rest]: Path, value: unknown): unknown {
  if (step === undefined) return value;
  if (Array.isArray(node)) return putInList(node, step, rest, value);
  const fields = isRecord(node) ? node : {};
  if (rest.length === 0 && value === undefined) {
    const { [step]: _gone, ...others } = fields;
    return others;
  }
  // A key that is there keeps its place, so that a file shows one changed line and not a moved one.
  return { ...fields, [step]: put(fields[step], rest, value) };
}

function putInList(list: readonly unknown[], step: string | number, rest: Path, value: unknown): unknown[] {
  const at = placeIn(list, step);
  const there = at >= 0 && at < list.length;
  const goes = rest.length === 0 && value === undefined;
  if (there && goes) return list.filter((_item, index) => index !== at);
  if (there) return list.map((item, index) => (index === at ? put(item, rest, value) : item));
  // What lies inside a thing that is gone has no place any more.
  return goes || (rest.length > 0 && typeof step === 'string')
    ? [...list]
    : [...list, put(undefined, rest, value)];
}
