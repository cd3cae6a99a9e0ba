import { boardSchema, type Board } from '../board/board';
import { chipSchema, type Chip } from '../board/chip';
import { type Programmer, programmerSchema } from '../board/programmer';
import type { Catalogue } from '../catalogue/catalogue';
import { expandOptions, type Kit, kitSchema } from '../kit/kit';
import { partSchema, type Part } from '../parts/part';
import { readBoard } from './boardFile';
import { boardProblems } from './boardRules';
import { type Dialect, dialectSchema } from '../report/dialect';
import { type FileProblem, type Read, readYaml } from './readYaml';

export interface NamedText {
  path: string;
  text: string;
}
export type CatalogueProblem = FileProblem & { file: string };

const FAMILIES = {
  board: boardSchema,
  chip: chipSchema,
  dialect: dialectSchema,
  kit: kitSchema,
  part: partSchema,
  programmer: programmerSchema,
};
type Family = keyof typeof FAMILIES;

/**
 * Reads the catalogue from its files; several documents may stand in one file, parted by `---`. Each names its
 * family in `jolly:`. All problems of all files are listed; the catalogue then holds what could be read.
 */
export function readCatalogue(files: NamedText[]): { catalogue: Catalogue; problems: CatalogueProblem[] } {
  const catalogue: Catalogue = { boards: [], chips: [], parts: [], kits: [], dialects: [], programmers: [] };
  const problems: CatalogueProblem[] = [];
  const boardsAt = new Map<Board, { file: string; line: number }>();
  for (const { path, text } of files) {
    for (const { body, firstLine } of documents(text)) {
      const family = /^jolly:\s*([a-z]+)\/1\s*$/m.exec(body)?.[1];
      if (family === undefined || !(family in FAMILIES)) {
        problems.push({
          file: path,
          line: firstLine,
          column: 1,
          path: 'jolly',
          message: `expected "jolly: board/1", chip/1, part/1, kit/1, dialect/1 or programmer/1`,
        });
        continue;
      }
      // Looked up among the families above.
      const read = readDocument(body, family as Family, catalogue.boards);
      if ('problems' in read)
        problems.push(
          ...read.problems.map((problem) => ({ ...problem, line: problem.line + firstLine - 1, file: path })),
        );
      else {
        // Looked up among the families above.
        add(catalogue, family as Family, read.value);
        // Checked by the schema of its family.
        if (family === 'board') boardsAt.set(read.value as Board, { file: path, line: firstLine });
      }
    }
  }
  // Only now are all chips known, whichever file they stand in.
  for (const [board, { file, line }] of boardsAt)
    for (const misfit of boardProblems(board, catalogue.chips))
      problems.push({
        ...misfit,
        file,
        line,
        column: 1,
        message: `${board.name} rev ${board.revision}: ${misfit.message}`,
      });
  return { catalogue, problems };
}

/** A board may be written by what differs from a revision before it. */
const readDocument = (body: string, family: Family, boards: Board[]): Read<unknown> =>
  family === 'board' ? readBoard(body, boards) : readYaml<unknown>(body, FAMILIES[family]());

function add(catalogue: Catalogue, family: Family, value: unknown): void {
  // Each was checked by the schema of its family.
  if (family === 'board') catalogue.boards.push(value as Board);
  // as above
  else if (family === 'chip') catalogue.chips.push(value as Chip);
  // as above
  else if (family === 'dialect') catalogue.dialects.push(value as Dialect);
  // as above
  else if (family === 'part') catalogue.parts.push(value as Part);
  // as above
  else if (family === 'programmer') catalogue.programmers.push(value as Programmer);
  // as above
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
