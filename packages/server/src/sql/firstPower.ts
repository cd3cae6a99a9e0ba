import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import type { Queries } from './db';

/** What was ticked and read at the first power, by what was asked. */
export async function listPowerNotes(db: Queries, machine: string): Promise<PowerNote[]> {
  const rows = await db.query<{ asked: string; expected: string; said: string; at: Date }>(
    'select asked, expected, said, at from first_power where machine = $1 order by asked',
    [machine],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

export async function putPowerNote(
  db: Queries,
  machine: string,
  { asked, expected, said }: Omit<PowerNote, 'at'>,
  at: Date,
): Promise<void> {
  await db.query(
    `insert into first_power (machine, asked, expected, said, at) values ($1, $2, $3, $4, $5)
     on conflict (machine, asked) do update set expected = $3, said = $4, at = $5`,
    [machine, asked, expected, said, at],
  );
}

export async function dropPowerNote(db: Queries, machine: string, asked: string): Promise<void> {
  await db.query('delete from first_power where machine = $1 and asked = $2', [machine, asked]);
}
