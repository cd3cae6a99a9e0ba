import { randomUUID } from 'node:crypto';
import { constants, copyFile, mkdir, open, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';

/** Writes a file so that it appears whole or not at all, and is on the disk when this resolves. */
export async function writeDurably(path: string, content: string | Uint8Array): Promise<void> {
  const partial = `${path}.${randomUUID()}.part`;
  try {
    await writeFile(partial, content, { flush: true });
    await rename(partial, path);
  } catch (error) {
    await rm(partial, { force: true });
    throw error;
  }
  await syncFolder(dirname(path));
}

/** Brings a folder's list of names to the disk, where the system can. */
export async function syncFolder(folder: string): Promise<void> {
  // Windows does not open folders; it writes their lists by itself.
  const handle = await open(folder, 'r').catch(() => undefined);
  await handle?.sync().catch(() => undefined);
  await handle?.close();
}

/** Brings everything below a folder to the disk; the files of one folder beside one another, as most of it is waiting. */
export async function syncTree(folder: string): Promise<void> {
  const entries = await readdir(folder, { withFileTypes: true });
  await Promise.all(
    entries.map(async (entry) => {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) return syncTree(path);
      const handle = await open(path, 'r+');
      await handle.sync();
      await handle.close();
    }),
  );
  await syncFolder(folder);
}

/** Copies a folder to where there is none; the files of one folder beside one another, as most of it is waiting. */
export async function copyTree(from: string, to: string): Promise<void> {
  await mkdir(to);
  const entries = await readdir(from, { withFileTypes: true });
  await Promise.all(
    entries.map((entry) => {
      const [source, copy] = [join(from, entry.name), join(to, entry.name)];
      return entry.isDirectory()
        ? copyTree(source, copy)
        : copyFile(source, copy, constants.COPYFILE_FICLONE);
    }),
  );
}
