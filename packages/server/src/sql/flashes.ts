import type { Flash } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

export async function addFlash(
  db: Queries,
  machine: string,
  flash: Omit<Flash, 'at'> & { at: Date },
): Promise<void> {
  await db.query(
    'insert into flash (id, machine, image_hash, route, file_name, at, outcome) values ($1, $2, $3, $4, $5, $6, $7)',
    [
      flash.id,
      machine,
      flash.imageHash,
      flash.route,
      flash.fileName,
      flash.at,
      JSON.stringify(flash.outcome),
    ],
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
  }>(
    'select id, image_hash, route, file_name, at, outcome from flash where machine = $1 order by at desc limit $2',
    [machine, limit],
  );
  return rows.map((row) => ({
    id: row.id,
    imageHash: row.image_hash,
    route: row.route,
    fileName: row.file_name,
    at: row.at.toISOString(),
    outcome: row.outcome,
  }));
}
