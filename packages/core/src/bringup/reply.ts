/** A reply line of Lantern: a word, then `name=value` pairs; values may be quoted. */
export interface Reply {
  word: string;
  values: Record<string, string>;
}

const PAIR = /([a-z][a-z0-9-]*)=("(?:[^"]*)"|\S+)/g;

/** Reads any line from the link; text that is no reply comes back with its first word and no values. */
export function parseReply(line: string): Reply {
  const word = /^\s*([a-z]+)/i.exec(line)?.[1] ?? '';
  const values: Record<string, string> = {};
  for (const [, name = '', value = ''] of line.matchAll(PAIR)) values[name] = value.replace(/^"|"$/g, '');
  return { word, values };
}
