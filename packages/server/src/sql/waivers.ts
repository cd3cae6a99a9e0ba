import type { Waiver } from '@jolly/contract/endpoints/kept';
import type { Queries } from './db';

export async function listWaivers(db: Queries, machine: string): Promise<Waiver[]> {
  const rows = await db.query<{ check_id: string; because: string; at: Date }>(
    'select check_id, because, at from waiver where machine = $1 and ended_with is null order by check_id',
    [machine],
  );
  return rows.map((row) => ({ check: row.check_id, because: row.because, at: row.at.toISOString() }));
}

export async function putWaiver(
  db: Queries,
  machine: string,
  check: string,
  because: string,
  at: Date,
): Promise<void> {
  await db.query(
    `insert into waiver (machine, check_id, because, at) values ($1, $2, $3, $4)
     on conflict (machine, check_id) where ended_with is null do update set because = $3, at = $4`,
    [machine, check, because, at],
  );
}

/** Waivers end with the job they were given for. */
export async function endWaivers(db: Queries, machine: string, job: number): Promise<void> {
  await db.query('update waiver set ended_with = $2 where machine = $1 and ended_with is null', [
    machine,
    job,
  ]);
}

/** A job that is taken up again brings its waivers back, where none was given since. */
export async function restoreWaivers(db: Queries, machine: string, job: number): Promise<void> {
  await db.query(
    `update waiver set ended_with = null where machine = $1 and ended_with = $2 and check_id not in
     (select check_id from waiver where machine = $1 and ended_with is null)`,
    [machine, job],
  );
}
