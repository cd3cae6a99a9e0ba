import type { CLine } from './cText';

/** One line of a generated file; `key` is the setting (or pin) it was written from. */
export interface GeneratedLine<Text extends string = string> {
  text: Text;
  key?: string;
}

/** A generated file as it is kept and shown. */
export interface GeneratedFile<Text extends string = string> {
  path: string;
  lines: GeneratedLine<Text>[];
}

/** A generated file that may be compiled: every line comes from the writers of `cText.ts`. */
export type CFile = GeneratedFile<CLine>;

/** The text of a generated file as the compiler reads it. */
export function textOf(file: CFile): string {
  return `${file.lines.map((line) => line.text).join('\n')}\n`;
}
