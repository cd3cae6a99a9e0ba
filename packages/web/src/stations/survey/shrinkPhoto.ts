import { type Remote, wrap } from 'comlink';
import type { Shrink } from './shrinkWorker';

/** Largest file that is opened, in bytes. */
const LARGEST_FILE = 40 * 2 ** 20;
let shrinker: Remote<Shrink> | undefined;

/**
 * A photo drawn anew and smaller, in a thread of its own; `was` tells its points where it was made smaller.
 * @throws {Error} for a file that is too large, or no picture this browser can read
 */
export async function shrinkPhoto(file: File): Promise<{ picture: Blob; was?: string }> {
  if (file.size > LARGEST_FILE)
    throw new Error(`${file.name} has ${file.size} bytes; at most ${LARGEST_FILE} (40 MB) are read`);
  shrinker ??= wrap<Shrink>(new Worker(new URL('./shrinkWorker.ts', import.meta.url), { type: 'module' }));
  const small = await shrinker(file);
  if (!small) throw new Error(`${file.name} is not a picture this browser can read`);
  return small;
}
