import type { JobState, StoredJob } from '@jolly/contract/endpoints/jobs';
import type { Job } from '@jolly/core/ripple/job';
import type { Queries } from './db';

interface Row {
  id: string | number;
  state: JobState;
  version: number;
  document: Job;
  opened_at: Date;
}
const COLUMNS = 'id, state, version, document, opened_at';
const stored = (row: Row): StoredJob => ({
  id: Number(row.id),
  state: row.state,
  version: row.version,
  openedAt: row.opened_at.toISOString(),
  job: row.document,
});

/** The one job of a machine that is open or paused. */
export async function openJob(db: Queries, machine: string): Promise<StoredJob | undefined> {
  const [row] = await db.query<Row>(
    `select ${COLUMNS} from job where machine = $1 and state in ('open', 'paused')`,
    [machine],
  );
  return row && stored(row);
}

/** What every machine has open or paused. */
export async function openJobs(db: Queries): Promise<{ machine: string; title: string; state: JobState }[]> {
  return db.query(
    `select machine, document->>'title' as title, state from job where state in ('open', 'paused')`,
  );
}

/** The job of a machine that ended last, when it was finished and none is open since. */
export async function lastFinished(
  db: Queries,
  machine: string,
): Promise<(StoredJob & { endedAt: string }) | undefined> {
  const [row] = await db.query<Row & { ended_at: Date | null }>(
    `select ${COLUMNS}, ended_at from job where machine = $1 order by id desc limit 1`,
    [machine],
  );
  return row?.state === 'done' && row.ended_at
    ? { ...stored(row), endedAt: row.ended_at.toISOString() }
    : undefined;
}

/** Opens a job; undefined when another is open. */
export async function addJob(
  db: Queries,
  machine: string,
  job: Job,
  at: Date,
): Promise<StoredJob | undefined> {
  const [row] = await db.query<Row>(
    `insert into job (machine, state, version, document, opened_at) values ($1, 'open', 1, $2, $3)
     on conflict do nothing returning ${COLUMNS}`,
    [machine, JSON.stringify(job), at],
  );
  return row && stored(row);
}

/** Saves a job over the version it was made from; undefined when that is no longer the newest. */
export async function saveJob(db: Queries, before: StoredJob, job: Job): Promise<StoredJob | undefined> {
  const [row] = await db.query<Row>(
    `update job set document = $3, version = version + 1 where id = $1 and version = $2 returning ${COLUMNS}`,
    [before.id, before.version, JSON.stringify(job)],
  );
  return row && stored(row);
}

export async function setJobState(db: Queries, id: number, state: JobState, at: Date): Promise<void> {
  const ended = state === 'done' || state === 'abandoned' ? at : null;
  await db.query('update job set state = $2, ended_at = $3, version = version + 1 where id = $1', [
    id,
    state,
    ended,
  ]);
}
