import { type DumpValue, parseDump } from '@jolly/core/report/parseDump';
import { alike } from '@jolly/core/settings/alike';
import type { Setting } from '@jolly/core/settings/setting';

/** A value that the board has otherwise than the machine file. */
export interface Differing {
  key: string;
  board: number;
  file: number;
  /** By which the board takes the value of the file. */
  line: string;
}
export interface AgainstFile {
  differing: Differing[];
  /** How many values are the same. */
  alike: number;
  /** Told by the board, and no number of the machine file. */
  beside: string[];
}

/** What a board reports held against the settings of the machine file, value by value. */
export function againstFile(lines: readonly string[], settings: ReadonlyMap<string, Setting>): AgainstFile {
  const against: AgainstFile = { differing: [], alike: 0, beside: [] };
  for (const told of parseDump({ text: lines.join('\n') }).values.filter(({ tool }) => !tool)) {
    const file = settings.get(told.key)?.value;
    if (typeof file !== 'number') against.beside.push(told.name ?? told.key);
    else if (alike(told.value, file)) against.alike += 1;
    else against.differing.push({ key: told.key, board: told.value, file, line: lineFor(told, lines, file) });
  }
  return against;
}

/** The board's own line with the value of the file in the place of its own: what it reports can be sent back. */
function lineFor({ line, key, axis }: DumpValue, lines: readonly string[], file: number): string {
  const told = (lines[line - 1] ?? '').replace(/^setting /, '');
  // The word of an axis has its letter; any other that of the last piece of its key.
  const letter = (axis ?? key.split('.').at(-1) ?? '').charAt(0).toLowerCase();
  return told
    .split(' ')
    .map((word, index) =>
      index > 0 && word.charAt(0).toLowerCase() === letter ? word.replace(/-?[\d.]+$/, String(file)) : word,
    )
    .join(' ');
}
