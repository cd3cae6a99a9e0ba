/** The way to a value in a plain state, step by step: a field by its name, a thing of a list by its id or its place. */
export type Path = (string | number)[];

export type Fields = Record<string, unknown>;
/** A thing in a list that is known by its id. */
export interface Named {
  id: string;
}

export const isRecord = (value: unknown): value is Fields =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

export const isNamed = (value: unknown): value is Named => isRecord(value) && typeof value['id'] === 'string';

/** Whether a list holds things with ids only; an empty one does. */
export const isNamedList = (value: unknown): value is Named[] => Array.isArray(value) && value.every(isNamed);

export const byId = (list: readonly Named[]): Fields =>
  Object.fromEntries(list.map((item) => [item.id, item]));

/** The place of a step in a list: a number is the place itself, a word the id of a thing; −1 where there is none. */
export const placeIn = (list: readonly unknown[], step: string | number): number =>
  typeof step === 'number' ? step : list.findIndex((item) => isNamed(item) && item.id === step);

/** The value at a path; undefined where there is none. */
export function valueAt(state: unknown, path: Path): unknown {
  return path.reduce<unknown>((node, step) => {
    if (Array.isArray(node)) return node[placeIn(node, step)];
    return isRecord(node) && Object.hasOwn(node, String(step)) ? node[String(step)] : undefined;
  }, state);
}
