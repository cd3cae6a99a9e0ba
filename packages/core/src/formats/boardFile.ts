import { writeYaml } from './writeYaml';
import { type Board, boardKeys, boardSchema } from '../board/board';
import type { Chip } from '../board/chip';
import type { BoardDraft } from '../board/boardDraft';
import type { Catalogue } from '../catalogue/catalogue';
import { line } from '../text/plainText';
import { sameValue } from '../tree/sameValue';
import { boardProblems, type SaidOfBoard } from './boardRules';
import { type Misfit, type Read, readYaml } from './readYaml';
import { once } from '../tree/once';

/**
 * Reads a board file and checks it against the chips of the catalogue and against itself. A further revision of a known
 * board may be written as `like: REVISION` and only what differs.
 */
export function readBoardFile(
  text: string,
  { chips, boards }: Pick<Catalogue, 'chips' | 'boards'>,
): Read<Board> {
  return readBoard(text, boards, (board) => boardProblems(board, chips));
}

const SAYS_LIKE = /^like:/m;
/** Reads a board, whole or by what differs from a revision of it among the boards. */
export function readBoard(
  text: string,
  boards: readonly Board[],
  holds: (board: Board) => Misfit[] = () => [],
): Read<Board> {
  if (!SAYS_LIKE.test(text)) return readYaml<Board>(text, boardSchema(), holds);
  const read = readYaml<Partial<Board> & { like: string }>(text, likeSchema());
  if ('problems' in read) return read;
  const { like, ...differs } = read.value;
  const line = text.split('\n').findIndex((row) => SAYS_LIKE.test(row)) + 1;
  const refuse = (message: string): Read<Board> => ({
    problems: [{ line, column: 1, path: 'like', message }],
  });
  const sister = boards.find((board) => board.id === differs.id && board.revision === like);
  if (!sister) return refuse(`"like": there is no ${differs.id} revision ${like} before it`);
  const whole: unknown = { ...sister, ...differs };
  const { error } = boardSchema().validate(whole, { convert: false });
  if (error) return refuse(error.message);
  // Checked in the line above.
  const board = whole as Board;
  const [misfit] = holds(board);
  return misfit ? refuse(`${misfit.path}: ${misfit.message}`) : { value: board };
}

/** A board that gives only what differs from another revision of it. */
export const likeSchema = once(() =>
  boardSchema()
    .fork(
      boardKeys().filter((key) => !['jolly', 'id', 'revision'].includes(key)),
      (schema) => schema.optional(),
    )
    .append({ like: line(12).required() }),
);

const LINE_WIDTH = 130;

/** Writes a board file; reading it back gives the same board. What a draft does not say yet is left out. */
export function writeBoardFile(board: Board | BoardDraft): string {
  return writeYaml(board, LINE_WIDTH);
}

/** Writes a board as a further revision: what differs from its sister. Reading it beside the sister gives the same board. */
export function writeBoardRevision(board: Board | BoardDraft, sister: Board): string {
  const { jolly, id, revision, ...rest } = board;
  const before: Readonly<Record<string, unknown>> = { ...sister };
  const differs = Object.entries(rest).filter(([key, value]) => !sameValue(value, before[key]));
  // Only lists may be missing: one that the sister has and this one has not is empty here.
  const gone = Object.keys(sister).filter((key) => !(key in board)).map((key): [string, unknown[]] => [key, []]); // prettier-ignore
  const lines = Object.fromEntries([...differs, ...gone]);
  return writeYaml({ jolly, id, revision, like: sister.revision, ...lines }, LINE_WIDTH);
}

/** Lists the rules look at; empty while something in them is missing. */
const LISTS = ['headers', 'sockets', 'inputs', 'routes', 'uses', 'faults', 'jumpers'] as const;
/** What they look at where it is said, and leave alone where it is not. */
const SINGLES = ['host_serial', 'chip_at_mm', 'print_at_mm', 'holes_mm'] as const;
const WIDE = { x: 1000, y: 1000 };

/** What is missing in a board that is being described, and what does not hold together in what has been said of it. */
export function draftProblems(draft: BoardDraft, chips: readonly Chip[]): Misfit[] {
  // What the writer of files drops.
  const plain: unknown = JSON.parse(JSON.stringify(draft));
  const { error } = boardSchema().validate(plain, { convert: false, abortEarly: false });
  if (!error) return boardProblems(draft as Board, chips); // by its schema, in the line above
  const missing = error.details.map(({ path, message }) => ({ path: path.join('.'), message }));
  const open = new Set(error.details.map(({ path }) => String(path[0])));
  const whole = Object.fromEntries(LISTS.map((key) => [key, open.has(key) ? [] : (draft[key] ?? [])]));
  const single = Object.fromEntries(SINGLES.map((key) => [key, open.has(key) ? undefined : draft[key]]));
  const outline_mm = open.has('outline_mm') ? WIDE : draft.outline_mm;
  const said: unknown = { ...draft, ...whole, ...single, outline_mm };
  // Each list is whole by its schema, or empty, and what else the rules look at is whole or missing.
  return open.has('chip') ? missing : [...missing, ...boardProblems(said as SaidOfBoard, chips)];
}
