import type { Path } from './path';

/** What is typed or chosen in a field of a form, and what it becomes in the file. */
export type FieldKind =
  /** One line of text. */
  | 'text'
  /** A sentence: a line as wide as the form. */
  | 'sentence'
  /** A number in the field's unit. */
  | 'number'
  /** Numbers in order, parted by spaces; `28..31` counts on. */
  | 'numbers'
  /** Words in order, parted by commas. */
  | 'words'
  /** Yes or no. */
  | 'flag'
  /** One of the choices. */
  | 'choice'
  /** A point on the board: two numbers, or pointed at. */
  | 'place'
  /** Things of one kind, each with fields of its own. */
  | 'list';

/** One thing a form asks for: where it stands in the file, and where it is read off. */
export interface FormField {
  path: Path;
  is: FieldKind;
  label: string;
  unit?: string;
  /** Least and most of a number, where the file’s own rules would refuse it only later. */
  range?: readonly [number, number];
  choices?: Readonly<Record<string, string>>;
  /** Its choices are numbers in the file. */
  numeric?: true;
  /** May be left empty. */
  optional?: true;
  /** Where it is read off, or how it is measured. */
  how?: string;
  /** Whether it is asked, by what was said so far of the same thing. */
  when?: (thing: unknown) => boolean;
  /** Of a list: what each of its things is. */
  each?: FormList;
}

/** Things of one kind in a list. */
export interface FormList {
  /** One of them, in words. */
  one: string;
  how?: string;
  fields: readonly FormField[];
  /** One to begin with, by how many there are and the last of them. */
  fresh: (count: number, last?: unknown) => object;
}
