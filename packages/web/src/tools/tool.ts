import type { Edit } from '@jolly/core/machine/edit';
import type { ReactNode } from 'react';
import type { PartId } from '@jolly/session/machineParts';
import type { Workbench } from '../workbench/Workbench';

/** One thing to type in or choose. */
export interface ToolField {
  key: string;
  label: string;
  unit?: string;
  /** A field with choices is chosen from; a field of many lines is pasted into. */
  choices?: { value: string; label: string }[];
  lines?: boolean;
  /** What it begins with: a fact of the machine. Empty for what must be measured first. */
  start: string;
  /** Shown in an empty field, so that it is clear what is meant. It never counts as measured. */
  example?: string;
}

/** What came out: sentences, an opinion, and what can be taken over. */
export interface ToolResult {
  lines: string[];
  verdict?: { tone: 'good' | 'bad' | 'plain'; words: string };
  apply?: { label: string; edits: Edit[] };
  drawing?: ReactNode;
}

export type Typed = Readonly<Record<string, string>>;

/** A small guided tool at the place where its result is used. */
export interface Tool {
  id: string;
  title: string;
  /** Parts of the machine beside which it lies. */
  parts: readonly PartId[];
  /** What to do, in one or two sentences. */
  doing: string;
  fields: (workbench: Workbench, part: PartId) => ToolField[];
  /** Works with the texts as typed; throws CalcError or TypedError where they say nothing. */
  work: (typed: Typed, workbench: Workbench, part: PartId) => ToolResult;
}

/** A field of a tool holds something that is not understood. */
export class TypedError extends Error {}
