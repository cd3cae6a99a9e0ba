import type Joi from 'joi';
import { isMap, isScalar, isSeq, LineCounter, parseDocument, type Node } from 'yaml';

/** Why a file was refused, and where. Lines and columns start at 1. */
export interface FileProblem {
  line: number;
  column: number;
  path: string;
  message: string;
}
/** What does not hold together, and the path to it, its steps parted by dots. */
export type Misfit = Pick<FileProblem, 'path' | 'message'>;
export type Read<T> = { value: T } | { problems: FileProblem[] };

const LONGEST = 2_000_000;
const DEEPEST = 20;
const MOST_ALIASES = 50;

/**
 * Reads YAML into a value guarded by a schema. Refuses files over 2 MB, deeper than 20 levels, with more than 50
 * alias expansions, with doubled or unknown keys. Every problem names its line, column, path and what was expected.
 */
export function readYaml<T>(
  text: string,
  schema: Joi.Schema,
  holds: (value: T) => Misfit[] = () => [],
): Read<T> {
  if (text.length > LONGEST)
    return refuse(1, 1, '', `the file has ${text.length} characters; at most ${LONGEST} are read`);
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines, uniqueKeys: true, strict: true });
  const broken = document.errors[0];
  if (broken) {
    const at = lines.linePos(broken.pos[0]);
    return refuse(at.line, at.col, '', broken.message.split('\n')[0]!.replace(/ at line.*$/, ''));
  }
  if (depth(document.contents) > DEEPEST)
    return refuse(1, 1, '', `the file is nested deeper than ${DEEPEST} levels`);
  let plain: unknown;
  try {
    plain = document.toJS({ maxAliasCount: MOST_ALIASES });
  } catch (error) {
    return refuse(1, 1, '', (error as Error).message);
  }
  const { error, value } = schema.validate(plain ?? {}, { convert: false, abortEarly: false });
  const misfits = error
    ? error.details.map(({ path, message }) => ({ path: path.join('.'), message }))
    : holds(value as T);
  if (misfits.length === 0) return { value: value as T };
  return {
    problems: misfits.map(({ path, message }) => {
      const steps = path.split('.').map((step) => (/^\d+$/.test(step) ? Number(step) : step));
      const at = lines.linePos(placeOf(document.contents, steps));
      return { line: Math.max(1, at.line), column: Math.max(1, at.col), path, message };
    }),
  };
}

function refuse(line: number, column: number, path: string, message: string): { problems: FileProblem[] } {
  return { problems: [{ line, column, path, message }] };
}

/** Offset of the node a path leads to, or of its nearest parent that is there. */
function placeOf(node: unknown, path: (string | number)[]): number {
  const here = (node as Node | null)?.range?.[0] ?? 0;
  const [key, ...rest] = path;
  if (key === undefined) return here;
  if (isSeq(node))
    return node.items[Number(key)] === undefined ? here : placeOf(node.items[Number(key)], rest);
  if (!isMap(node)) return here;
  const pair = node.items.find((item) => isScalar(item.key) && item.key.value === key);
  if (!pair) return here;
  return rest.length > 0 && pair.value ? placeOf(pair.value, rest) : ((pair.key as Node).range?.[0] ?? here);
}

function depth(node: unknown, level = 0): number {
  if (level > DEEPEST) return level;
  const children = isMap(node) ? node.items.map((item) => item.value) : isSeq(node) ? node.items : [];
  return children.reduce<number>((deepest, child) => Math.max(deepest, depth(child, level + 1)), level);
}
