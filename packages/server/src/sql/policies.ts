import type { Policy } from '@jolly/core/fleet/policy';
import type { Queries } from './db';

export async function policyOf(db: Queries, machine: string): Promise<Policy | null> {
  const [row] = await db.query<{ policy: Policy }>('select policy from policy where machine = $1', [machine]);
  return row?.policy ?? null;
}

/** Of every machine of which somebody has said so. */
export async function policies(db: Queries): Promise<ReadonlyMap<string, Policy>> {
  const rows = await db.query<{ machine: string; policy: Policy }>('select machine, policy from policy');
  return new Map(rows.map(({ machine, policy }) => [machine, policy]));
}

export async function setPolicy(db: Queries, machine: string, policy: Policy | null): Promise<void> {
  if (policy === null) await db.query('delete from policy where machine = $1', [machine]);
  else
    await db.query(
      'insert into policy (machine, policy) values ($1, $2) on conflict (machine) do update set policy = $2',
      [machine, policy],
    );
}
