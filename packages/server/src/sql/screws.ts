import type { TurnedScrew } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

/** Screws of the plate that were turned at the bench since they were found. */
export async function turnedScrews(db: Queries, machine: string): Promise<TurnedScrew[]> {
  const [row] = await db.query<{ screws: TurnedScrew[] }>(
    'select screws from turned_screws where machine = $1',
    [machine],
  );
  return row?.screws ?? [];
}

export async function saveTurnedScrews(
  db: Queries,
  machine: string,
  screws: readonly TurnedScrew[],
): Promise<void> {
  await db.query(
    'insert into turned_screws (machine, screws) values ($1, $2) on conflict (machine) do update set screws = $2',
    [machine, JSON.stringify(screws)],
  );
}
