import type { Due, LeftDue } from '@jolly/contract/endpoints/jobs';
import type { Queries } from './db';

interface Row extends Omit<Due, 'since'> {
  machine: string;
  since: Date;
}
const stored = ({ machine: _machine, since, ...row }: Row): Due => ({ ...row, since: since.toISOString() });

export async function listDues(db: Queries, machine: string): Promise<Due[]> {
  return (
    await db.query<Row>(
      'select machine, id, title, because, since from due where machine = $1 order by since, id',
      [machine],
    )
  ).map(stored);
}

/** What jobs have left of every machine. */
export async function allDues(db: Queries): Promise<(Due & { machine: string })[]> {
  const rows = await db.query<Row>('select machine, id, title, because, since from due order by since, id');
  return rows.map((row) => ({ ...stored(row), machine: row.machine }));
}

/** Keeps something due; the older date stays where it was due before. */
export async function addDue(
  db: Queries,
  machine: string,
  job: number,
  due: Omit<Due, 'since'>,
  since: Date,
) {
  await db.query(
    `insert into due (machine, id, title, because, since, job) values ($1, $2, $3, $4, $5, $6)
     on conflict (machine, id) do nothing`,
    [machine, due.id, due.title, due.because, since, job],
  );
}

/** Takes something off the list of what is due; undefined when it was not on it. */
export async function dropDue(db: Queries, machine: string, id: string): Promise<LeftDue | undefined> {
  const [row] = await db.query<Omit<LeftDue, 'since'> & { since: Date }>(
    'delete from due where machine = $1 and id = $2 returning id, title, because, since, job::integer as job',
    [machine, id],
  );
  return row && { ...row, since: row.since.toISOString() };
}

/** Puts something back that was dropped; not where the job that left it is another machine's, or gone. */
export async function putDueBack(db: Queries, machine: string, due: LeftDue): Promise<void> {
  await db.query(
    `insert into due (machine, id, title, because, since, job)
     select $1, $2, $3, $4, $5::timestamptz, id from job where id = $6 and machine = $1
     on conflict (machine, id) do nothing`,
    [machine, due.id, due.title, due.because, due.since, due.job],
  );
}

/** What a job left behind goes with it when it is taken up again: it is the job's own again. */
export async function dropDuesOf(db: Queries, job: number): Promise<void> {
  await db.query('delete from due where job = $1', [job]);
}
