import type { GeneratedFile, GeneratedLine } from './generatedFile';

/** A line of a generated file against another state of it. */
export interface ComparedLine {
  kind: 'same' | 'changed' | 'added' | 'removed';
  /** The line as it is; for a removed one, as it was. */
  line: GeneratedLine;
  was?: string;
}
export interface ComparedFile {
  path: string;
  lines: ComparedLine[];
  /** How many lines differ. */
  differs: number;
}

/** What a line defines: generated files define every name once. */
const nameOf = ({ text }: GeneratedLine) => /^#\w+ (\w+)/.exec(text)?.[1] ?? text;

/** Every generated file against an earlier state: by the name a line defines, removed lines where they stood. */
export function compareFiles(was: readonly GeneratedFile[], is: readonly GeneratedFile[]): ComparedFile[] {
  const paths = [...new Set([...is, ...was].map(({ path }) => path))];
  return paths.map((path) => {
    const lines = compareLines(
      was.find((file) => file.path === path)?.lines ?? [],
      is.find((file) => file.path === path)?.lines ?? [],
    );
    return { path, lines, differs: lines.filter(({ kind }) => kind !== 'same').length };
  });
}

function compareLines(was: readonly GeneratedLine[], is: readonly GeneratedLine[]): ComparedLine[] {
  const before = new Map(was.map((line) => [nameOf(line), line]));
  const now = new Set(is.map(nameOf));
  const removedAfter = new Map<string, GeneratedLine[]>();
  let last = '';
  for (const line of was) {
    const name = nameOf(line);
    if (now.has(name)) last = name;
    else removedAfter.set(last, [...(removedAfter.get(last) ?? []), line]);
  }
  const removed = (after: string): ComparedLine[] =>
    (removedAfter.get(after) ?? []).map((line) => ({ kind: 'removed', line }));
  return [
    ...removed(''),
    ...is.flatMap((line): ComparedLine[] => {
      const old = before.get(nameOf(line));
      const compared: ComparedLine = !old
        ? { kind: 'added', line }
        : old.text === line.text
          ? { kind: 'same', line }
          : { kind: 'changed', line, was: old.text };
      return [compared, ...removed(nameOf(line))];
    }),
  ];
}
