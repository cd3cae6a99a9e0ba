import { call, linesLost, newFolder, spawnProduct, startProduct } from '../product';
import { must, type Trial } from '../trial';

let data: string | undefined;
const marks: string[] = [];

/** Several on one folder at once, the holder killed now and then: one holds it, and no acknowledged write goes. */
export const twoServers: Trial = {
  name: 'two servers on one data folder',
  share: 2,
  async attempt({ chance, count }) {
    data ??= newFolder();
    const first = await startProduct(data);
    const others = [spawnProduct(data), spawnProduct(data)];
    const killed = chance.next() < 0.5;
    try {
      const mark = `mark ${count}`;
      must(
        (await call(first.address, 'POST', '/machines/plover/entries', { summary: mark })).status === 200,
        'no write',
      );
      marks.push(mark);
      if (killed) {
        await new Promise((resolve) => setTimeout(resolve, chance.whole(0, 1500)));
        await first.kill();
      }
      const addresses = await Promise.all(others.map(({ ready }) => ready));
      const holding = addresses.filter((address) => address !== '').length + (killed ? 0 : 1);
      must(holding <= 1, `${holding} held it at once`);
      for (const other of others)
        if (other.address === '') {
          const code = await other.ended;
          must(
            code === 1 && other.heard().includes('process '),
            `a second ended with ${code}: ${other.heard().slice(0, 200)}`,
          );
        }
    } finally {
      await Promise.all([first, ...others].map((product) => product.kill()));
    }
    const lost = await linesLost(data, marks.slice(-800));
    must(lost.length === 0, `${lost.length} acknowledged writes are gone`);
  },
};
