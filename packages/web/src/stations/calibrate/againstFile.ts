import type { Kit } from '@jolly/core/kit/kit';
import { optionOf } from '@jolly/core/kit/optionOf';
import { foundByBoard, storedSettings } from '@jolly/core/kit/storedSettings';
import { parseDump } from '@jolly/core/report/parseDump';
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
export function againstFile(
  lines: readonly string[],
  { settings, kit }: { settings: ReadonlyMap<string, Setting>; kit: Kit },
): AgainstFile {
  const letters = new Map(storedSettings(kit).map(({ option, letter }) => [option.key, letter]));
  const own = foundByBoard(kit);
  const against: AgainstFile = { differing: [], alike: 0, beside: [] };
  for (const told of parseDump({ text: lines.join('\n') }).values.filter(({ tool }) => !tool)) {
    const file = own.has(told.key) ? undefined : settings.get(told.key)?.value;
    const letter = letters.get(told.key);
    if (typeof file !== 'number' || letter === undefined)
      against.beside.push(optionOf(kit, told.key)?.label ?? told.name ?? told.key);
    else if (alike(told.value, file)) against.alike += 1;
    else
      against.differing.push({
        key: told.key,
        board: told.value,
        file,
        line: lineWith(lines[told.line - 1] ?? '', letter, file),
      });
  }
  return against;
}

/** The board's own line with another value at a letter: what it reports can be sent back. */
const lineWith = (line: string, letter: string, value: number): string =>
  line
    .replace(/^setting /, '')
    .split(' ')
    .map((word, index) =>
      index > 0 && word.charAt(0).toUpperCase() === letter ? word.replace(/-?[\d.]+$/, String(value)) : word,
    )
    .join(' ');
