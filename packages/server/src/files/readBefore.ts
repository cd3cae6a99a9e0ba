import type { NamedText } from '@jolly/core/formats/catalogueFiles';
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** What installed files say: which files they are, and how they are read and checked. */
interface Source<Value> {
  /** Where it is kept as it was read, below the checkout. */
  kept: string;
  files: (root: string) => Promise<NamedText[]>;
  /** @throws {Error} for a mistake in one of the files: it is ours */
  read: (files: NamedText[]) => Value;
}

/** What installed files say, read anew or as it was read before. */
interface ReadBefore<Value> {
  load(root: string): Promise<Value>;
  /** Reads it for all starts to come. */
  keep(root: string): Promise<void>;
}

const hashOf = (files: readonly NamedText[]): string =>
  createHash('sha256').update(JSON.stringify(files)).digest('hex');

/**
 * Files that are read and checked when the product is built: reading them takes most of a start. What was kept is let
 * go when a file says something else.
 */
export function readBefore<Value>({ kept, files, read }: Source<Value>): ReadBefore<Value> {
  interface Kept {
    from: string;
    value: Value;
  }
  return {
    async load(root) {
      const texts = await files(root);
      const text = await readFile(join(root, kept), 'utf8').catch(() => undefined);
      // Written beside the program when it was built, as trusted as the program itself.
      const before = text === undefined ? undefined : (JSON.parse(text) as Kept);
      return before?.from === hashOf(texts) ? before.value : read(texts);
    },
    async keep(root) {
      const texts = await files(root);
      const now: Kept = { from: hashOf(texts), value: read(texts) };
      await writeFile(join(root, kept), JSON.stringify(now));
    },
  };
}

/** Texts of files by their paths below the checkout, in the order of their names. */
export const namedTexts = (root: string, paths: readonly string[]): Promise<NamedText[]> =>
  Promise.all(
    [...paths].sort().map(async (path) => ({ path, text: await readFile(join(root, path), 'utf8') })),
  );
