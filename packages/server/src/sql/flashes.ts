import type { Flash } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

export async function addFlash(
  db: Queries,
  machine: string,
  flash: Omit<Flash, 'at'> & { at: Date },
): Promise<void> {
  const { id, imageHash, route, fileName, at, outcome, does, board, fromStart } = flash;
  await db.query(
    `insert into flash (id, machine, image_hash, route, file_name, at, outcome, does, board, from_start)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [id, machine, imageHash, route, fileName, at, JSON.stringify(outcome), does, board ?? null, fromStart],
  );
}

export async function listFlashes(db: Queries, machine: string, limit: number): Promise<Flash[]> {
  const rows = await db.query<{
    id: string;
    image_hash: string | null;
    route: string;
    file_name: string;
    at: Date;
    outcome: Flash['outcome'];
    does: Flash['does'];
    board: string | null;
    from_start: boolean;
  }>(
    `select id, image_hash, route, file_name, at, outcome, does, board, from_start
     from flash where machine = $1 order by at desc limit $2`,
    [machine, limit],
  );
  return rows.map((row) => ({
    id: row.id,
    imageHash: row.image_hash,
    route: row.route,
    fileName: row.file_name,
    at: row.at.toISOString(),
    outcome: row.outcome,
    does: row.does,
    fromStart: row.from_start,
    ...(row.board !== null && { board: row.board }),
  }));
}
