import { readFile } from 'node:fs/promises';
import { dumpRefusal, parseDump } from '@jolly/core';
import { badInput, type Call, EXIT, readWords } from './command.js';

/** `dump FILE`: a settings report, read. */
export async function dumpCommand({ words }: Call): Promise<number> {
  const { flags, rest } = readWords(words);
  const path = rest[0] ?? '';
  const text = await readFile(path, 'utf8').catch((error: Error) => error);
  if (text instanceof Error) return badInput(`${path || 'FILE'}: ${text.message}`);
  const refused = dumpRefusal(text);
  if (refused) return badInput(`${path}: ${refused}`);
  const dump = parseDump({ text });
  if (flags.has('json')) console.log(JSON.stringify(dump));
  else {
    for (const { key, value, unit, tool, line } of dump.values)
      console.log(`${key}${tool ? ` (tool ${tool})` : ''} = ${value}${unit && ` ${unit}`}  (line ${line})`);
    for (const { line, text: unread } of dump.unread) console.log(`not read, line ${line}: ${unread}`);
  }
  return dump.values.length > 0 ? EXIT.fine : badInput(`${path}: no setting in it was understood`);
}
