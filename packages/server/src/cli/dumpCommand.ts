import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Dialect } from '@jolly/core/report/dialect';
import { SHIPPED_DIALECTS } from '@jolly/core/report/shippedDialects';
import { dumpRefusal, parseDump } from '@jolly/core/report/parseDump';
import { loadOwnDialect, readDialectFile } from '../files/ownDialect';
import { badInput, type Call, EXIT, readWords } from './command';

/** `dump FILE [--dialect FILE]`: a settings report, read by the shipped dialects, what was taught, and the file's. */
export async function dumpCommand({ words, data }: Call): Promise<number> {
  const { flags, values, rest } = readWords(words, ['dialect']);
  const path = rest[0] ?? '';
  const text = await readFile(path, 'utf8').catch((error: Error) => error);
  if (text instanceof Error) return badInput(`${path || 'FILE'}: ${text.message}`);
  const dialects = await dialectsOf(data, values.get('dialect')).catch((error: Error) => error);
  if (dialects instanceof Error) return badInput(dialects.message);
  const refused = dumpRefusal(text, dialects);
  if (refused) return badInput(`${path}: ${refused}`);
  const dump = parseDump({ text, dialects });
  if (flags.has('json')) console.log(JSON.stringify(dump));
  else {
    for (const { key, value, unit, tool, line, name } of dump.values)
      console.log(
        `${key}${tool ? ` (tool ${tool})` : ''} = ${value}${unit && ` ${unit}`}  (line ${line})${name ? `  ${name}` : ''}`,
      );
    for (const { line, text: unread } of dump.unread)
      console.log(`not read, line ${line}: ${printable(unread)}`);
  }
  return dump.values.length > 0 ? EXIT.fine : badInput(`${path}: no setting in it was understood`);
}

/** Control bytes could steer a terminal; they are shown as dots. */
const printable = (text: string) => text.replace(/[^\P{C}\t]|\ufffd/gu, '·');

/** Shipped, taught in the product and in its demo, and the one that was named. */
async function dialectsOf(data: string, named: string | undefined): Promise<Dialect[]> {
  const taught = await Promise.all(['own', 'demo'].map((folder) => loadOwnDialect(join(data, folder))));
  return [...SHIPPED_DIALECTS, ...taught, ...(named === undefined ? [] : [await readDialectFile(named)])];
}
