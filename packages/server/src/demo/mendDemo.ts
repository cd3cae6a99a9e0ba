import { openContext } from '../context';
import type { DataFinding, Mend } from '../data/checkData';
import { paths } from '../paths';
import { startReading } from '../reading/reading';
import { layDemo } from './layDemo';

/** Lays again what a first start of the demo, ended half way, left out: machines, and images that are kept of them. */
export function mendDemo(root: string, data: string, now: Date): Mend {
  return async (db): Promise<DataFinding[]> => {
    const reading = startReading(paths(root, data).readerWorker);
    try {
      const count = async () =>
        Number(
          (
            await db.query<{ count: string | number }>(
              'select (select count(*) from machine) + (select count(*) from kept) as count',
            )
          )[0]?.count ?? 0,
        );
      const before = await count();
      await layDemo(
        await openContext({ root, data, demo: true, now: () => now }, db, { reading, replaying: reading }),
      );
      const laid = (await count()) - before;
      return laid > 0
        ? [{ what: 'the demo', state: 'mended', says: `${laid} machines or kept images laid again` }]
        : [];
    } finally {
      await reading.close();
    }
  };
}
