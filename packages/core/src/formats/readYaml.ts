import { LONGEST_YAML } from '../text/limits';
import { whyOf } from '../text/whyOf';
import { type Filled, isFilled } from '../tree/filled';
import type Joi from 'joi';
import {
  Composer,
  type CST,
  isMap,
  isScalar,
  isSeq,
  LineCounter,
  type Node,
  Parser,
  type Scalar,
} from 'yaml';

/** Why a file was refused, and where. Lines and columns start at 1. */
export interface FileProblem {
  line: number;
  column: number;
  path: string;
  message: string;
}
/** What does not hold together, and the path to it, its steps parted by dots. */
export type Misfit = Pick<FileProblem, 'path' | 'message'>;
export type Read<T> = { value: T } | { problems: Filled<FileProblem> };

const DEEPEST = 20;
const MOST_ALIASES = 50;

/** Pretty errors and the library's own search for doubled keys take time with the square of the text. */
const OPTIONS = { uniqueKeys: false, strict: true, prettyErrors: false, logLevel: 'error' } as const;

/** How many problems are told, each with its place. */
const MOST_PROBLEMS = 50;

/**
 * Reads YAML into a value guarded by a schema. Refuses files over 256 kB, deeper than 20 levels, with more than 50
 * alias expansions, with doubled or unknown keys. Every problem names its line, column, path and what was expected;
 * the first 50 are told. Takes time in proportion to the text, whatever stands in it.
 */
export function readYaml<T>(
  text: string,
  schema: Joi.Schema,
  holds: (value: T) => Misfit[] = () => [],
): Read<T> {
  if (text.length > LONGEST_YAML)
    return refuse(1, 1, '', `the file has ${text.length} characters; at most ${LONGEST_YAML} are read`);
  const lines = new LineCounter();
  const parts = [...new Parser(lines.addNewLine).parse(text)];
  // Before anything goes down into it: no stack is deep enough for every text.
  if (deeperThan(DEEPEST, parts)) return refuse(1, 1, '', `the file is nested deeper than ${DEEPEST} levels`);
  const [document, second] = new Composer(OPTIONS).compose(parts, true, text.length);
  if (!document || second) return refuse(1, 1, '', 'one file holds one document');
  const broken = document.errors[0];
  if (broken) {
    const at = lines.linePos(broken.pos[0]);
    return refuse(at.line, at.col, '', broken.message.split('\n')[0] ?? '');
  }
  const doubled = doubledKey(document.contents);
  if (doubled) {
    const at = lines.linePos(doubled.range?.[0] ?? 0);
    return refuse(
      at.line,
      at.col,
      '',
      `the key "${String(doubled.value).slice(0, 40)}" stands twice; keys must be unique`,
    );
  }
  let plain: unknown;
  try {
    plain = document.toJS({ maxAliasCount: MOST_ALIASES });
  } catch (error) {
    return refuse(1, 1, '', whyOf(error));
  }
  const { error, value } = schema.validate(plain ?? {}, { convert: false, abortEarly: false });
  const misfits = error
    ? error.details.map(({ path, message }) => ({ path: path.join('.'), message }))
    : // The schema found nothing against it.
      holds(value as T);
  const problems = misfits.slice(0, MOST_PROBLEMS).map(({ path, message }) => {
    const steps = path.split('.').map((step) => (/^\d+$/.test(step) ? Number(step) : step));
    const at = lines.linePos(placeOf(document.contents, steps));
    return { line: Math.max(1, at.line), column: Math.max(1, at.col), path, message };
  });
  return isFilled(problems) ? { problems } : { value: value as T }; // The schema found nothing against it.
}

function refuse(
  line: number,
  column: number,
  path: string,
  message: string,
): { problems: Filled<FileProblem> } {
  return { problems: [{ line, column, path, message }] };
}

/** Offset of the node a path leads to, or of its nearest parent that is there. */
function placeOf(node: unknown, path: (string | number)[]): number {
  // The library types a node as anything.
  const here = (node as Node | null)?.range?.[0] ?? 0;
  const [key, ...rest] = path;
  if (key === undefined) return here;
  if (isSeq(node))
    return node.items[Number(key)] === undefined ? here : placeOf(node.items[Number(key)], rest);
  if (!isMap(node)) return here;
  const pair = node.items.find((item) => isScalar(item.key) && item.key.value === key);
  if (!pair) return here;
  // Keys of a parsed map are nodes.
  return rest.length > 0 && pair.value ? placeOf(pair.value, rest) : ((pair.key as Node).range?.[0] ?? here);
}

/** The first key that a map has had before. (The library's own check takes time with the square of the keys.) */
function doubledKey(node: unknown): Scalar | undefined {
  if (isSeq(node)) return node.items.map(doubledKey).find(Boolean);
  if (!isMap(node)) return undefined;
  const seen = new Set<unknown>();
  for (const { key, value } of node.items) {
    if (isScalar(key)) {
      if (seen.has(key.value)) return key;
      seen.add(key.value);
    }
    const below = doubledKey(value);
    if (below) return below;
  }
  return undefined;
}

type Part = CST.Token | CST.CollectionItem | undefined | null;

/** Whether parts of a text stand more than so many levels deep in one another. Goes down without calling itself. */
function deeperThan(levels: number, parts: readonly Part[]): boolean {
  let level: readonly Part[] = parts;
  for (let depth = 0; level.length > 0; depth += 1) {
    if (depth > levels) return true;
    level = level.flatMap((part) => below(part)).flatMap((item) => [item.key, item.value]);
  }
  return false;
}

function below(part: Part): readonly CST.CollectionItem[] {
  if (!part || !('type' in part)) return [];
  if (part.type === 'document') return part.value ? below(part.value) : [];
  return 'items' in part ? part.items : [];
}
