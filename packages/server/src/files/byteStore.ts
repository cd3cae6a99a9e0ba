import { createHash } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Bytes stored once under the hash of what they were made from (or of themselves). */
export interface ByteStore {
  get(key: string): Promise<Uint8Array | undefined>;
  put(key: string, bytes: Uint8Array): Promise<void>;
}

/** A store in a folder. A file appears whole or not at all; the most used stay in memory. */
export function folderStore(folder: string, inMemory = 400): ByteStore {
  const held = new Map<string, Uint8Array>();
  const pathOf = (key: string) => join(folder, key.slice(0, 2), key);
  const hold = (key: string, bytes: Uint8Array) => {
    held.set(key, bytes);
    if (held.size > inMemory) held.delete(held.keys().next().value!);
  };
  return {
    async get(key) {
      const known = held.get(key);
      if (known) return known;
      const bytes = await readFile(pathOf(key)).catch(() => undefined);
      if (bytes) hold(key, bytes);
      return bytes;
    },
    async put(key, bytes) {
      const path = pathOf(key);
      await mkdir(join(folder, key.slice(0, 2)), { recursive: true });
      const partial = `${path}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;
      await writeFile(partial, bytes, { flush: true });
      await rename(partial, path);
      hold(key, bytes);
    },
  };
}

/** SHA-256 over several texts or bytes, each parted from the next, in hexadecimal. */
export function hashOf(...pieces: (string | Uint8Array)[]): string {
  const hash = createHash('sha256');
  for (const piece of pieces) hash.update(String(piece.length)).update('\0').update(piece);
  return hash.digest('hex');
}
