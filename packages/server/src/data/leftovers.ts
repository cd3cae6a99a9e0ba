import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

/** Files and folders ending in `.part`, at most two folders down: what a process was writing when it was ended. */
export async function leftoversIn(data: string, depth = 2): Promise<string[]> {
  const entries = await readdir(data, { withFileTypes: true }).catch(() => []);
  const found = await Promise.all(
    entries.map(async (entry) => {
      const path = join(data, entry.name);
      if (entry.name.endsWith('.part')) return [path];
      return entry.isDirectory() && depth > 0 && entry.name !== 'database'
        ? leftoversIn(path, depth - 1)
        : [];
    }),
  );
  return found.flat();
}

/** Clears what was half written: nothing names it. To be called by the holder of the folder only. */
export async function clearLeftovers(data: string): Promise<string[]> {
  const found = await leftoversIn(data);
  await Promise.all(found.map((path) => rm(path, { recursive: true, force: true })));
  return found;
}
