/** A list with at least one thing in it. */
export type Filled<T> = [T, ...T[]];

export const isFilled = <T>(list: readonly T[]): list is Readonly<Filled<T>> & Filled<T> => list.length > 0;
