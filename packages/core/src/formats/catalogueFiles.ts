import { boardSchema, type Board } from '../board/board';
import { chipSchema, type Chip } from '../board/chip';
import type { Catalogue } from '../catalogue/catalogue';
import { expandOptions, type Kit, kitSchema } from '../kit/kit';
import { partSchema, type Part } from '../parts/part';
import { type FileProblem, readYaml } from './readYaml';

export interface NamedText {
  path: string;
  text: string;
}
export type CatalogueProblem = FileProblem & { file: string };

const FAMILIES = { board: boardSchema, chip: chipSchema, kit: kitSchema, part: partSchema };
type Family = keyof typeof FAMILIES;

/**
 * Reads the catalogue from its files; several documents may stand in one file, parted by `---`. Each names its
 * family in `jolly:`. All problems of all files are listed; the catalogue then holds what could be read.
 */
export function readCatalogue(files: NamedText[]): { catalogue: Catalogue; problems: CatalogueProblem[] } {
  const catalogue: Catalogue = { boards: [], chips: [], parts: [], kits: [] };
  const problems: CatalogueProblem[] = [];
  for (const { path, text } of files) {
    for (const { body, firstLine } of documents(text)) {
      const family = /^jolly:\s*([a-z]+)\/1\s*$/m.exec(body)?.[1];
      if (family === undefined || !(family in FAMILIES)) {
        problems.push({
          file: path,
          line: firstLine,
          column: 1,
          path: 'jolly',
          message: `expected "jolly: board/1", chip/1, part/1 or kit/1`,
        });
        continue;
      }
      const read = readYaml<unknown>(body, FAMILIES[family as Family]);
      if ('problems' in read)
        problems.push(
          ...read.problems.map((problem) => ({ ...problem, line: problem.line + firstLine - 1, file: path })),
        );
      else add(catalogue, family as Family, read.value);
    }
  }
  return { catalogue, problems };
}

function add(catalogue: Catalogue, family: Family, value: unknown): void {
  if (family === 'board') catalogue.boards.push(value as Board);
  else if (family === 'chip') catalogue.chips.push(value as Chip);
  else if (family === 'part') catalogue.parts.push(value as Part);
  else catalogue.kits.push({ ...(value as Kit), options: expandOptions((value as Kit).options) });
}

function documents(text: string): { body: string; firstLine: number }[] {
  const found: { body: string; firstLine: number }[] = [];
  let lines: string[] = [];
  let firstLine = 1;
  text.split('\n').forEach((line, index) => {
    if (line.trim() !== '---') return void lines.push(line);
    if (lines.some((entry) => entry.trim() !== '' && !entry.startsWith('#')))
      found.push({ body: lines.join('\n'), firstLine });
    lines = [];
    firstLine = index + 2;
  });
  if (lines.some((entry) => entry.trim() !== '' && !entry.startsWith('#')))
    found.push({ body: lines.join('\n'), firstLine });
  return found;
}
