import { join } from 'node:path';
import { whyOf } from '@jolly/core/text/whyOf';
import type { Dialect } from '@jolly/core/report/dialect';
import { SHIPPED_DIALECTS } from '@jolly/core/report/shippedDialects';
import { dumpRefusal, parseDump } from '@jolly/core/report/parseDump';
import { loadOwnDialect, readDialectFile } from '../files/ownDialect';
import { badInput, type Call, type Command, EXIT, JSON_FLAG, readText, unreachable } from './command';

export const dumpCommand: Command = {
  does: 'a settings report, read',
  takes: ['FILE'],
  options: { dialect: { value: 'FILE', help: 'a file that teaches lines' }, json: JSON_FLAG },
  more: 'Read by the shipped dialects, what was taught in the product, and the file that is named.',
  run: dump,
};

async function dump({ words: [path = ''], value, has, data }: Call): Promise<number> {
  const text = await readText(path);
  const dialects = await dialectsOf(data, value('dialect')).catch((error: unknown) =>
    badInput(unreachable(error) ?? whyOf(error)),
  );
  const refused = dumpRefusal(text, dialects);
  if (refused) return badInput(`${path}: ${refused}`);
  const read = parseDump({ text, dialects });
  if (has('json')) console.log(JSON.stringify(read));
  else {
    for (const { key, value, unit, tool, line, name } of read.values)
      console.log(
        `${key}${tool ? ` (tool ${tool})` : ''} = ${value}${unit && ` ${unit}`}  (line ${line})${name ? `  ${name}` : ''}`,
      );
    for (const { line, text: unread } of read.unread)
      console.log(`not read, line ${line}: ${printable(unread)}`);
  }
  return read.values.length > 0 ? EXIT.fine : badInput(`${path}: no setting in it was understood`);
}

/** Control bytes could steer a terminal; they are shown as dots. */
const printable = (text: string) => text.replace(/[^\P{C}\t]|\ufffd/gu, '·');

/** Shipped, taught in the product and in its demo, and the one that was named. */
async function dialectsOf(data: string, named: string | undefined): Promise<Dialect[]> {
  const taught = await Promise.all(['own', 'demo'].map((folder) => loadOwnDialect(join(data, folder))));
  return [...SHIPPED_DIALECTS, ...taught, ...(named === undefined ? [] : [await readDialectFile(named)])];
}
