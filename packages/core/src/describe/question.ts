import type { PartKind } from '../parts/part';
import type { Machine } from '../machine/machine';

/** What a question is answered with; null is "not known yet". */
export type AnswerValue = string | number | boolean;
export type Answers = Readonly<Record<string, AnswerValue | null>>;

interface Asked {
  id: string;
  label: string;
  /** How it is found out at the printer: what to look at, count or measure. */
  how?: string;
  /** Without it there is no machine file; until then it stays a description. */
  needed?: true;
  /** What it is taken for where nobody said anything, in words; said to be not known, it stays a question. */
  unsaid?: string;
  /** Whether it is asked at all, by what was answered so far. */
  when?: (answers: Answers) => boolean;
  /** What a machine file says about it; undefined where it says nothing. */
  read: (machine: Machine) => AnswerValue | undefined;
}
export interface NumberQuestion extends Asked {
  kind: 'number';
  unit: string;
  range: readonly [number, number];
  whole?: true;
}
export interface ChoiceQuestion extends Asked {
  kind: 'choice';
  choices: readonly { value: string; label: string }[];
}
export interface TextQuestion extends Asked {
  kind: 'text';
  longest: number;
}
export interface FlagQuestion extends Asked {
  kind: 'flag';
}
/** A part of a kind in a role; `none` where there may be none. */
export interface PartQuestion extends Asked {
  kind: 'part';
  of: PartKind;
  role: string;
  /** Under which id the machine keeps it, where kind and role do not say so. */
  keptAs?: string;
  optional?: true;
}
/** A board type, written `id revision`. */
export interface BoardQuestion extends Asked {
  kind: 'board';
}
export type Question =
  NumberQuestion | ChoiceQuestion | TextQuestion | FlagQuestion | PartQuestion | BoardQuestion;

/** Questions that are answered at one look. */
export interface Page {
  id: string;
  title: string;
  /** What to have at hand, or what to be careful of; the hazard first. */
  hint?: string;
  questions: readonly Question[];
}

/** What stands for "there is none" in the answer to a part. */
export const NONE = 'none';
