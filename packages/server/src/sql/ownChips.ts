import type { Chip } from '@jolly/core/board/chip';
import type { Queries } from './db';

/** Chips that were described or imported here, beside those of the installed catalogue. */
export async function listOwnChips(db: Queries): Promise<Chip[]> {
  const rows = await db.query<{ document: Chip }>('select document from own_chip order by id');
  return rows.map((row) => row.document);
}

/** Adds a chip, or replaces the one of the same id that was added before. */
export async function putOwnChip(db: Queries, chip: Chip, at: Date): Promise<void> {
  await db.query(
    `insert into own_chip (id, document, at) values ($1, $2, $3)
     on conflict (id) do update set document = $2, at = $3`,
    [chip.id, JSON.stringify(chip), at],
  );
}
