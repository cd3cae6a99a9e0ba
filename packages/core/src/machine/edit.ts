import type { Machine } from './machine';

/** One change to a machine file: the value at `path` becomes `value`, or goes away when there is none. */
export interface Edit {
  path: (string | number)[];
  value?: unknown;
}

/** A copy of the machine with the edits made, in order. The given machine is left as it is. */
export function applyEdits(machine: Machine, edits: Edit[]): Machine {
  return edits.reduce((edited, edit) => put(edited, edit.path, edit.value) as Machine, machine);
}

function put(node: unknown, [key, ...rest]: (string | number)[], value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(node)) {
    const copy = [...(node as unknown[])];
    if (rest.length === 0 && value === undefined) copy.splice(Number(key), 1);
    else copy[Number(key)] = put(copy[Number(key)], rest, value);
    return copy;
  }
  const fields = (node ?? {}) as Record<string | number, unknown>;
  if (rest.length === 0 && value === undefined) {
    const { [key]: _gone, ...others } = fields;
    return others;
  }
  // A key that is there keeps its place, so that a file shows one changed line and not a moved one.
  return { ...fields, [key]: put(fields[key], rest, value) };
}

/** The edit that gives a setting a value of its own. */
export function overrideEdit(key: string, value: unknown, because: string): Edit {
  return { path: ['settings', key], value: { value, source: 'override', because } };
}

/** The edit that lets the facts, or the kit, decide a setting again. */
export function resetEdit(key: string): Edit {
  return { path: ['settings', key] };
}
