import type { CostRun } from '@jolly/contract/endpoints/costs';
import type { Costs } from '@jolly/core/fit/chooseFit';
import type { Queries } from './db';

interface Row {
  machine: string;
  machine_version: number;
  state: CostRun['state'];
  started_at: Date;
  ended_at: Date | null;
  result: { costs: Costs } | { because: string } | null;
}

function stored(row: Row): CostRun {
  // The columns that a run in this state has.
  return {
    machineId: row.machine,
    machineVersion: row.machine_version,
    startedAt: row.started_at.toISOString(),
    state: row.state,
    ...(row.ended_at && { endedAt: row.ended_at.toISOString() }),
    ...row.result,
  } as CostRun;
}

export async function costRun(db: Queries, machine: string): Promise<CostRun | undefined> {
  const [row] = await db.query<Row>('select * from costs where machine = $1', [machine]);
  return row && stored(row);
}

/** Begins a run; what was measured before goes. */
export async function beginCosts(db: Queries, machine: string, version: number, at: Date): Promise<void> {
  await db.query(
    `insert into costs (machine, machine_version, state, started_at) values ($1, $2, 'running', $3)
     on conflict (machine) do update set machine_version = $2, state = 'running', started_at = $3, ended_at = null, result = null`,
    [machine, version, at],
  );
}

export async function endCosts(
  db: Queries,
  machine: string,
  end: { state: 'done' | 'failed' | 'cancelled'; at: Date; result?: { costs: Costs } | { because: string } },
): Promise<void> {
  await db.query(
    `update costs set state = $2, ended_at = $3, result = $4 where machine = $1 and state = 'running'`,
    [machine, end.state, end.at, end.result ? JSON.stringify(end.result) : null],
  );
}

/** Machines whose run a server that ended left behind. */
export async function unfinishedCosts(db: Queries): Promise<string[]> {
  return (await db.query<{ machine: string }>(`select machine from costs where state = 'running'`)).map(
    ({ machine }) => machine,
  );
}
