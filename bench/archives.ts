import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { copyFileSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { hashOf, folderStore } from '../packages/server/src/files/byteStore';
import { paths } from '../packages/server/src/paths';
import { openDb } from '../packages/server/src/sql/db';

const COUNT = 200;
const BYTES = 2 ** 20;
const SIZE = `${COUNT} photos and ${COUNT} images, ${(2 * COUNT * BYTES) / 2 ** 20} MB`;

interface Ran {
  took: number;
  /** Most memory the process ever held, in MB. */
  peak: number;
}

/** Writes a machine with much history as an archive and takes it in elsewhere, against copying the same files. */
export async function archivesBench(
  root: string,
  scratch: string,
  say: (what: string, figure: string) => void,
): Promise<void> {
  const [from, to, zip] = [join(scratch, 'archive-from'), join(scratch, 'archive-to'), join(scratch, 'shelf.zip')]; // prettier-ignore
  const run = (data: string, ...words: string[]) => runJolly(root, data, words);
  await served(root, from);
  await fill(root, from);
  const idle = await run(from, 'check-data', 'demo');
  const copied = copyAll(paths(root, join(from, 'demo')), join(scratch, 'copied'));
  const written = await run(from, 'export', zip, '--machine', 'dunlin', '--of', 'demo');
  const taken = await run(to, 'import', zip, '--of', 'own');
  for (const [what, ran] of [
    ['written', written],
    ['taken in', taken],
  ] as const)
    // prettier-ignore
    say(
      `${SIZE} ${what}`,
      `${(ran.took / 1000).toFixed(1)} s, ${(ran.took / copied).toFixed(1)} × copying its files; ${ran.peak} MB at most, ${Math.max(0, ran.peak - idle.peak)} MB above the database alone`,
    );
}

/** A process of the product, and the most memory it held: the kernel's own count. */
async function runJolly(root: string, data: string, words: readonly string[]): Promise<Ran> {
  const begun = performance.now();
  const child = spawn(process.execPath, [join(root, 'dist/jolly.mjs'), ...words], {
    env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: data },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  let peak = 0;
  const look = setInterval(() => {
    try {
      peak = Math.max(peak, Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0)); // prettier-ignore
    } catch {
      // It has just ended.
    }
  }, 20);
  const code = await new Promise((resolve) => child.once('exit', resolve));
  clearInterval(look);
  if (code !== 0) throw new Error(`jolly ${words.join(' ')} ended with ${String(code)}`);
  return { took: performance.now() - begun, peak: Math.round(peak / 1024) };
}

/** Lets the product lay its demo in a data folder. */
async function served(root: string, data: string): Promise<void> {
  const child = spawn(process.execPath, [join(root, 'dist/jolly.mjs'), 'demo', '--port', '0'], {
    env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: data },
  });
  await new Promise((resolve) => child.stdout.once('data', resolve));
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await gone;
}

/** Bytes that cannot be packed, as pictures and kept images are. */
async function fill(root: string, data: string): Promise<void> {
  const at = paths(root, join(data, 'demo'));
  const db = await openDb({ folder: at.database, migrations: at.migrations });
  const [photos, images] = [folderStore(at.photos), folderStore(at.images)];
  for (let index = 0; index < COUNT; index += 1) {
    const [photo, image] = [randomBytes(BYTES), randomBytes(BYTES)];
    await photos.put(hashOf(photo), photo);
    await images.put(hashOf(image), image);
    await db.query(
      `insert into photo (machine, board_id, board_revision, hash, type, title, width, height, pins, at)
       values ('dunlin', 'sedge-s4', '1', $1, 'image/jpeg', $2, 800, 600, '[]', now())`,
      [hashOf(photo), `photo ${index}`],
    );
    await db.query(
      `insert into kept (machine, kind, name, board_id, board_revision, hash, bytes, format, source, verdict, evidence, at)
       values ('dunlin', 'image', $2, 'sedge-s4', '1', $1, $3, 'bin', 'file', 'doubtful', '[]', now())`,
      [hashOf(image), `image ${index}`, BYTES],
    );
  }
  await db.close();
}

/** Copies every photo and image once, plainly; how long it took, in ms. */
function copyAll({ photos, images }: { photos: string; images: string }, to: string): number {
  mkdirSync(to, { recursive: true });
  const begun = performance.now();
  for (const folder of [photos, images])
    for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' }))
      if (statSync(join(folder, name)).isFile()) copyFileSync(join(folder, name), join(to, name.replaceAll('/', '_'))); // prettier-ignore
  return performance.now() - begun;
}
