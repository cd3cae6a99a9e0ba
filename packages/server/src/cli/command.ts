import { readFile } from 'node:fs/promises';
import { text as wholeText } from 'node:stream/consumers';
import { whyOf } from '@jolly/core/text/whyOf';
import { errorCode } from '../data/errorCode';

/** Exit codes of every command: fine, findings that stop, bad input. */
export const EXIT = { fine: 0, stopped: 1, badInput: 2 } as const;

/** A flag, or with `value` an option that is followed by one. */
export interface Option {
  help: string;
  /** What its value is called: `DIR`. */
  value?: string;
}

/** What is called, with its words read. */
export interface Call {
  /** Files and other words without dashes, as many as the command takes. */
  words: readonly string[];
  /** The value of an option; undefined where it was not given. */
  value(name: string): string | undefined;
  has(flag: string): boolean;
  /** The checkout. */
  root: string;
  /** Where kept things lie. */
  data: string;
}

/** One command, with all it takes: what is not named here is refused by name. */
export interface Command {
  /** What it does, in a line. */
  does: string;
  /** Words without dashes, in order; those in brackets may be left out: `FILE`, `[own|demo]`. */
  takes: readonly string[];
  options: Readonly<Record<string, Option>>;
  /** More about it, for its own help. */
  more?: string;
  run(call: Call): Promise<number>;
}

export const JSON_FLAG: Option = { help: 'what comes out, and errors, as JSON' };

/** The input cannot be used; it is said in a sentence on standard error, and the command ends with 2. */
export class BadInput extends Error {
  /** @param key the value that is wrong, where it has a name */
  constructor(
    message: string,
    readonly key?: string,
  ) {
    super(message);
  }
}

/** @throws {BadInput} always */
export function badInput(message: string, key?: string): never {
  throw new BadInput(message, key);
}

const WHY: Readonly<Record<string, string>> = {
  ENOENT: 'is not there',
  EACCES: 'may not be read or written',
  EPERM: 'may not be read or written',
  EROFS: 'cannot be written: the file system is read-only',
  EISDIR: 'is a folder',
  ENOTDIR: 'lies in no folder',
  EEXIST: 'is there already, and no folder',
  ENOSPC: 'does not fit: the disk is full',
};

/**
 * Why a file or folder of the call cannot be read or written, in a sentence; undefined for any other error.
 * @param meant what it is called where the error itself names none
 */
export function unreachable(error: unknown, meant = ''): string | undefined {
  const why = WHY[errorCode(error) ?? ''];
  const path = error instanceof Error && 'path' in error ? String(error.path) : meant;
  return why && path ? `${path.replace(/\.part$/, '')} ${why}` : undefined;
}

/** The text of a file named on the command line; `-` is standard input. @throws {BadInput} when it cannot be read */
export async function readText(path: string): Promise<string> {
  if (path === '-') return wholeText(process.stdin);
  return readFile(path, 'utf8').catch((error: unknown) =>
    badInput(unreachable(error, path) ?? `${path}: ${whyOf(error)}`),
  );
}
