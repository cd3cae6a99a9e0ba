import type { GeneratedFile } from './generatedFile';

/** The first error a compiler or linker reported, led back to the setting it came from where that is known. */
export interface Diagnostic {
  file: string;
  line: number;
  message: string;
  key?: string;
}

/** The smallest part of what changed since the last good build that breaks it. */
export type Culprit =
  | { keys: string[]; builds: number }
  /** With every setting as it was it breaks too: board, parts or wiring are another. */
  | { machine: true; builds: number };

const LOCATED = /^(?:In file included from )?([\w./-]+):(\d+):(?:\d+:)? (?:fatal )?error: (.*)$/m;
const NAMED_KEY = /\[([a-z0-9]+(?:[.-][a-z0-9]+)*)\]/;

/**
 * Reads the first error out of a compiler's log. A firmware guard names its setting in square brackets; an error
 * in a generated file belongs to the setting its line was written from.
 */
export function firstError(log: string, files: GeneratedFile[]): Diagnostic | undefined {
  const match = LOCATED.exec(log);
  if (!match) {
    const told = log.split('\n').find((line) => /error/i.test(line));
    return told === undefined ? undefined : { file: '', line: 0, message: told.trim() };
  }
  const [, file = '', lineText = '0', message = ''] = match;
  const line = Number(lineText);
  const named =
    NAMED_KEY.exec(message)?.[1] ?? files.find((entry) => entry.path === file)?.lines[line - 1]?.key;
  const plain = message
    .replace(/^static assertion failed[^:]*: ?/, '')
    .replace(NAMED_KEY, '')
    .replace(/^"|"$/g, '')
    .trim();
  return { file, line, message: plain, ...(named && { key: named }) };
}
