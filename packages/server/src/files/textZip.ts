import { buffer, text } from 'node:stream/consumers';
import { fromBufferPromise } from 'yauzl';
import { ZipFile } from 'yazl';

/** A fixed time, so that the same files make the same bytes. */
const MADE = new Date(Date.UTC(2000, 0, 1));

export interface TextFile {
  name: string;
  text: string;
}

/** Text files as one zip, read back before it is handed out. @throws {Error} when it does not read back as it was */
export async function textZip(files: readonly TextFile[]): Promise<Uint8Array> {
  const zip = new ZipFile();
  for (const file of files) zip.addBuffer(Buffer.from(file.text), file.name, { mtime: MADE, forceDosTimestamp: true }); // prettier-ignore
  zip.end();
  const bytes = await buffer(zip.outputStream);
  const back = await readBack(bytes);
  const lost = files.find(({ name, text: was }) => back.get(name) !== was);
  if (lost) throw new Error(`${lost.name} does not read back out of the zip as it was`);
  return new Uint8Array(bytes);
}

async function readBack(bytes: Buffer): Promise<ReadonlyMap<string, string>> {
  const found = new Map<string, string>();
  const zip = await fromBufferPromise(bytes, { lazyEntries: true, strictFileNames: true });
  for await (const entry of zip.eachEntry())
    found.set(entry.fileName, await text(await zip.openReadStreamPromise(entry)));
  return found;
}
