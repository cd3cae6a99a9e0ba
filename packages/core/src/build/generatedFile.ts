/** One line of a generated file; `key` is the setting (or pin) it was written from. */
export interface GeneratedLine {
  text: string;
  key?: string;
}

export interface GeneratedFile {
  path: string;
  lines: GeneratedLine[];
}

/** The text of a generated file as the compiler reads it. */
export function textOf(file: GeneratedFile): string {
  return `${file.lines.map((line) => line.text).join('\n')}\n`;
}
