import type { Part } from '@jolly/core/parts/part';
import type { Queries } from './db';

/** Parts that were described or imported here, beside those of the installed catalogue. */
export async function listOwnParts(db: Queries): Promise<Part[]> {
  const rows = await db.query<{ document: Part }>('select document from own_part order by id');
  return rows.map((row) => row.document);
}

/** Adds a part, or replaces the one of the same id that was added before. */
export async function putOwnPart(db: Queries, part: Part, at: Date): Promise<void> {
  await db.query(
    `insert into own_part (id, document, at) values ($1, $2, $3)
     on conflict (id) do update set document = $2, at = $3`,
    [part.id, JSON.stringify(part), at],
  );
}
