import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import type { Grounds } from '@jolly/core/machine/ground';
import type { Queries } from './db';

/** A note with the facts it rests on; missing in those of before they were kept. */
type StoredNote = PowerNote & { grounds?: Grounds };

/** What was ticked and read at the first power, by what was asked. */
export async function listPowerNotes(db: Queries, machine: string): Promise<StoredNote[]> {
  const rows = await db.query<Omit<PowerNote, 'at'> & { at: Date; grounds: Grounds | null }>(
    'select asked, expected, said, at, grounds from first_power where machine = $1 order by asked',
    [machine],
  );
  return rows.map(({ grounds, ...row }) => ({
    ...row,
    at: row.at.toISOString(),
    ...(grounds && { grounds }),
  }));
}

export async function putPowerNote(
  db: Queries,
  machine: string,
  { asked, expected, said, grounds }: Omit<PowerNote, 'at'> & { grounds: Grounds },
  at: Date,
): Promise<void> {
  await db.query(
    `insert into first_power (machine, asked, expected, said, at, grounds) values ($1, $2, $3, $4, $5, $6)
     on conflict (machine, asked) do update set expected = $3, said = $4, at = $5, grounds = $6`,
    [machine, asked, expected, said, at, JSON.stringify(grounds)],
  );
}

export async function dropPowerNote(db: Queries, machine: string, asked: string): Promise<void> {
  await db.query('delete from first_power where machine = $1 and asked = $2', [machine, asked]);
}
