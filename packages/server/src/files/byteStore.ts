import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { writeDurably } from './durable';

/** Bytes stored once under the hash of what they were made from (or of themselves). */
export interface ByteStore {
  get(key: string): Promise<Uint8Array | undefined>;
  /** Where it lies, for whoever streams it; undefined when it is not there. */
  pathOf(key: string): Promise<string | undefined>;
  /** On the disk when it resolves. */
  put(key: string, bytes: Uint8Array): Promise<void>;
  /** Removes bytes for good, from memory too. */
  drop(key: string): Promise<void>;
  keys(): Promise<string[]>;
}

/** A store in a folder. A file appears whole or not at all; the newest stay in memory, up to so many bytes. */
export function folderStore(folder: string, inMemory = 32 * 2 ** 20): ByteStore {
  const held = new Map<string, Uint8Array>();
  let heldBytes = 0;
  const letGo = (key: string) => {
    heldBytes -= held.get(key)?.length ?? 0;
    held.delete(key);
  };
  const pathOf = (key: string) => join(folder, key.slice(0, 2), key);
  const hold = (key: string, bytes: Uint8Array) => {
    letGo(key);
    held.set(key, bytes);
    heldBytes += bytes.length;
    for (const oldest of held.keys()) {
      if (heldBytes <= inMemory) break;
      letGo(oldest);
    }
  };
  return {
    async get(key) {
      const known = held.get(key);
      if (known) return known;
      const bytes = await readFile(pathOf(key)).catch(() => undefined);
      if (bytes) hold(key, bytes);
      return bytes;
    },
    async pathOf(key) {
      const path = pathOf(key);
      return (await stat(path).catch(() => undefined)) && path;
    },
    async put(key, bytes) {
      const path = pathOf(key);
      await mkdir(join(folder, key.slice(0, 2)), { recursive: true });
      await writeDurably(path, bytes);
      hold(key, bytes);
    },
    async drop(key) {
      letGo(key);
      await rm(pathOf(key), { force: true });
    },
    async keys() {
      const folders = await readdir(folder).catch(() => []);
      const names = await Promise.all(folders.map((name) => readdir(join(folder, name)).catch(() => [])));
      return names.flat().filter((name) => /^[0-9a-f]{64}$/.test(name));
    },
  };
}

/** SHA-256 over several texts or bytes, each parted from the next, in hexadecimal. */
export function hashOf(...pieces: (string | Uint8Array)[]): string {
  const hash = createHash('sha256');
  for (const piece of pieces) hash.update(String(piece.length)).update('\0').update(piece);
  return hash.digest('hex');
}
