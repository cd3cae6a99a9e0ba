/** What the browser's access to a folder gives, as far as it is used here. */
type Folder = FileSystemDirectoryHandle & { values(): AsyncIterable<FileSystemHandle> };
interface WithPicker {
  showDirectoryPicker?: (how: { mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;
}

/** Asks the person for a card or drive; undefined where this browser cannot, null where they pick none. */
export async function pickFolder(): Promise<Folder | null | undefined> {
  const { showDirectoryPicker: pick } = window as WithPicker; // not in the library's types yet
  if (!pick) return undefined;
  try {
    return (await pick.call(window, { mode: 'readwrite' })) as Folder; // it can be listed
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw error;
  }
}
export const canPickFolder = (): boolean => 'showDirectoryPicker' in window;

/** Names of the files that lie in its root. */
export async function rootOf(folder: Folder): Promise<string[]> {
  const names: string[] = [];
  for await (const entry of folder.values()) if (entry.kind === 'file') names.push(entry.name);
  return names.sort();
}

export async function readFile(folder: Folder, name: string): Promise<Uint8Array<ArrayBuffer>> {
  const file = await (await folder.getFileHandle(name)).getFile();
  return new Uint8Array(await file.arrayBuffer());
}

/** Writes a file and reads it back. @throws {Error} saying what differs */
export async function writeFile(folder: Folder, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
  const handle = await folder.getFileHandle(name, { create: true });
  const out = await handle.createWritable();
  await out.write(bytes);
  await out.close();
  const back = await readFile(folder, name);
  const at = back.length === bytes.length ? bytes.findIndex((byte, index) => back[index] !== byte) : -2;
  if (at === -2)
    throw new Error(`${name} has ${back.length} bytes on the card; ${bytes.length} were written. Take another card.`); // prettier-ignore
  if (at >= 0) throw new Error(`${name} reads back differently from byte ${at} on. Take another card.`);
}

export const removeFile = (folder: Folder, name: string): Promise<void> => folder.removeEntry(name);
export type { Folder };
