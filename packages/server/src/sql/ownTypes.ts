import type { Chip } from '@jolly/core/board/chip';
import type { Part } from '@jolly/core/parts/part';
import type { Queries } from './db';

/** Things of the catalogue that were described or imported here, beside the installed ones, each known by its id. */
function ownIn<T extends { id: string }>(table: 'own_part' | 'own_chip') {
  return {
    list: async (db: Queries): Promise<T[]> =>
      (await db.query<{ document: T }>(`select document from ${table} order by id`)).map(
        (row) => row.document,
      ),
    /** Adds one, or replaces the one of the same id that was added before. */
    put: async (db: Queries, thing: T, at: Date): Promise<void> => {
      await db.query(
        `insert into ${table} (id, document, at) values ($1, $2, $3)
         on conflict (id) do update set document = $2, at = $3`,
        [thing.id, JSON.stringify(thing), at],
      );
    },
  };
}

export const ownParts = ownIn<Part>('own_part');
export const ownChips = ownIn<Chip>('own_chip');
