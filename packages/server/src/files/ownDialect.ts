import { mkdir, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readYaml } from '@jolly/core/formats/readYaml';
import { writeYaml } from '@jolly/core/formats/writeYaml';
import { type Dialect, type DialectLine, dialectSchema } from '@jolly/core/report/dialect';
import { writeDurably } from './durable';

const EMPTY: Dialect = { jolly: 'dialect/1', id: 'own', name: 'What you taught', lines: [] };

/** Where the lines that the user taught lie: an open file, so that it can be taken along and read without the server. */
export const ownDialectPath = (data: string): string => join(data, 'dialects', 'own.yaml');

/** Reads a dialect file. @throws {Error} saying where and why it cannot be read */
export async function readDialectFile(path: string): Promise<Dialect> {
  const read = readYaml<Dialect>(await readFile(path, 'utf8'), dialectSchema());
  if ('value' in read) return read.value;
  const { line, column, message } = read.problems[0];
  throw new Error(`${path}, line ${line}, column ${column}: ${message}`);
}

/** What was taught so far; nothing where there is no file yet. */
export async function loadOwnDialect(data: string): Promise<Dialect> {
  return readDialectFile(ownDialectPath(data)).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return EMPTY;
    throw error;
  });
}

/** Writes it whole or not at all, synced to the disk. */
export async function saveOwnDialect(data: string, dialect: Dialect): Promise<void> {
  const path = ownDialectPath(data);
  await mkdir(dirname(path), { recursive: true });
  await writeDurably(path, writeYaml(dialect, 130));
}

/** The dialect with one more line; a line of the same text is replaced. */
export function taught(dialect: Dialect, line: DialectLine): Dialect {
  const nameOf = (entry: DialectLine) => ('text' in entry ? entry.text : entry.code);
  return { ...dialect, lines: [...dialect.lines.filter((entry) => nameOf(entry) !== nameOf(line)), line] };
}
