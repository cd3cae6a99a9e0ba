import { cpSync, readdirSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { call, newFolder, spawnProduct, startProduct } from '../product';
import { must, type Trial } from '../trial';

let whole: string | undefined;
async function wholeFolder(): Promise<string> {
  if (whole) return whole;
  const data = newFolder();
  const product = await startProduct(data);
  await call(product.address, 'POST', '/machines/plover/entries', { summary: 'the mark' });
  await product.kill('SIGTERM');
  return (whole = data);
}

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, String(name)))
    .filter((path) => statSync(path).isFile());

/** Files lost, cut short or overwritten: it starts with what was there, or ends with a sentence; never anew. */
export const damage: Trial = {
  name: 'a damaged data folder',
  share: 2,
  async attempt({ chance }) {
    const data = newFolder();
    cpSync(await wholeFolder(), data, { recursive: true });
    const database = join(data, 'demo/database');
    const essential = ['PG_VERSION', 'global/pg_control', 'pg_wal', 'base', 'pg_xact', 'postgresql.conf'];
    const path =
      chance.next() < 0.4 ? join(database, chance.one(essential)) : chance.one(filesIn(join(data, 'demo')));
    const how = chance.one(['lost', 'cut', 'overwritten'] as const);
    if (how === 'lost' || statSync(path).isDirectory()) rmSync(path, { recursive: true });
    else if (how === 'cut') truncateSync(path, Math.floor(statSync(path).size * chance.next()));
    else
      writeFileSync(
        path,
        Uint8Array.from({ length: 512 }, () => chance.whole(0, 255)),
        { flag: 'r+' },
      );
    const product = spawnProduct(data);
    const address = await product.ready.catch(() => {
      throw new Error(`hung on ${path} ${how}`);
    });
    try {
      if (address === '') {
        const code = await product.ended;
        must(code === 1, `ended with ${code} on ${path} ${how}`);
        must(
          /cannot start: .+\./.test(product.heard()),
          `no sentence on ${path} ${how}: ${product.heard().slice(0, 300)}`,
        );
        return;
      }
      const { status, body } = await call(address, 'GET', '/machines/plover/entries');
      const marked =
        status === 200 && (body as { summary: string }[]).some(({ summary }) => summary === 'the mark');
      must(marked || status >= 500, `started anew on ${path} ${how}`);
    } finally {
      await product.kill();
      rmSync(data, { recursive: true, force: true });
    }
  },
};
