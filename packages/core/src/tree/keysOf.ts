/** The keys of a record that has these and no others, with their type. */
export const keysOf = <K extends string>(record: Readonly<Partial<Record<K, unknown>>>): K[] =>
  Object.keys(record) as K[]; // the keys that its type names

/** The entries of such a record. */
export const entriesOf = <K extends string, V>(record: Readonly<Record<K, V>>): [K, V][] =>
  Object.entries(record) as [K, V][]; // the keys that its type names

/** The one of some words that a text is; undefined when it is none of them. */
export const oneOf = <T extends string>(words: readonly T[], text: string): T | undefined =>
  words.find((word) => word === text);
