import type { Path } from '../tree/path';
import { put } from '../tree/put';
import type { Machine } from './machine';

/** One change to a machine file: the value at `path` becomes `value`, or goes away when there is none. */
export interface Edit {
  path: Path;
  value?: unknown;
}

/** A copy of the machine with the edits made, in order. The given machine is left as it is. */
export function applyEdits(machine: Machine, edits: Edit[]): Machine {
  // Whoever takes edits from outside reads the outcome with the machine's schema.
  return edits.reduce((edited, edit) => put(edited, edit.path, edit.value) as Machine, machine);
}

/** The edit that gives a setting a value of its own. */
export function overrideEdit(key: string, value: unknown, because: string): Edit {
  return { path: ['settings', key], value: { value, source: 'override', because } };
}

/** The edit that lets the facts, or the kit, decide a setting again. */
export function resetEdit(key: string): Edit {
  return { path: ['settings', key] };
}
