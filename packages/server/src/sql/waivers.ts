import type { Db } from './db';

/** A check that somebody set aside for a machine, in their own words. */
export interface Waiver {
  check: string;
  because: string;
  at: string;
}

export async function listWaivers(db: Db, machine: string): Promise<Waiver[]> {
  const rows = await db.query<{ check_id: string; because: string; at: Date }>(
    'select check_id, because, at from waiver where machine = $1 and ended_with is null order by check_id',
    [machine],
  );
  return rows.map((row) => ({ check: row.check_id, because: row.because, at: row.at.toISOString() }));
}

export async function putWaiver(
  db: Db,
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
export async function endWaivers(db: Db, machine: string, job: number): Promise<void> {
  await db.query('update waiver set ended_with = $2 where machine = $1 and ended_with is null', [
    machine,
    job,
  ]);
}

/** A job that is taken up again brings its waivers back, where none was given since. */
export async function restoreWaivers(db: Db, machine: string, job: number): Promise<void> {
  await db.query(
    `update waiver set ended_with = null where machine = $1 and ended_with = $2 and check_id not in
     (select check_id from waiver where machine = $1 and ended_with is null)`,
    [machine, job],
  );
}
