import { textOf } from '@jolly/core/build/generatedFile';
import { oncePer } from '@jolly/core/tree/oncePer';
import { hashOf } from '../files/byteStore';
import type { BuildInput } from './buildInput';
import { COMPILER, compileArguments, objectName } from './recipe';

/** One source with every header it reads, directly or through others. */
export interface Unit {
  source: string;
  object: string;
  /** The source and its headers, by path. */
  files: Record<string, string>;
  /** Says the same for the same object: compiler, arguments and everything that is read. */
  key: string;
}

/** A file as the key of an object sees it. */
interface Read {
  includes: string[];
  sum: string;
}

const readFiles = (files: ReadonlyMap<string, string>): ReadonlyMap<string, Read> =>
  new Map(
    [...files].map(([path, text]) => [
      path,
      {
        includes: [...text.matchAll(/^\s*#\s*include\s+"([^"]+)"/gm)].map(([, name = '']) => name),
        sum: hashOf(text),
      },
    ]),
  );

/** The kit's own files are the same from build to build. */
const readSources = oncePer(readFiles);

/** Everything that is compiled for an image, in the order of its paths. */
export function unitsOf({
  sources,
  generated,
  effort,
}: Pick<BuildInput, 'sources' | 'generated' | 'effort'>): Unit[] {
  const made = new Map(generated.map((file) => [file.path, textOf(file)]));
  const files = new Map([...sources, ...made]);
  const read = new Map([...readSources(sources), ...readFiles(made)]);
  return [...sources.keys()]
    .filter((path) => path.endsWith('.c'))
    .sort()
    .map((source) => {
      const needed = [source, ...includedBy(source, read)];
      return {
        source,
        object: objectName(source),
        files: Object.fromEntries(needed.map((path) => [path, files.get(path) ?? ''])),
        key: hashOf(
          COMPILER,
          compileArguments([source], effort).join(' '),
          ...needed.flatMap((path) => [path, read.get(path)?.sum ?? '']),
        ),
      };
    });
}

/** Every header a source reads, directly or through others, of those there are. */
function includedBy(source: string, read: ReadonlyMap<string, Read>): string[] {
  const found = new Set<string>();
  const visit = (path: string): void => {
    for (const name of read.get(path)?.includes ?? []) {
      if (found.has(name) || !read.has(name)) continue;
      found.add(name);
      visit(name);
    }
  };
  visit(source);
  return [...found].sort();
}
