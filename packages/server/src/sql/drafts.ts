import { one, type Queries } from './db';

/** Something that is worked at for long, counted up with every save. */
interface Draft<T> {
  id: string;
  version: number;
  document: T;
  changed_at: Date;
}
const COLUMNS = 'id, version, document, changed_at';

/** The rows of a table of drafts; `as` makes of one what is answered. */
export function draftsIn<T, S>(
  table: 'description' | 'begun_board',
  as: (draft: { id: string; version: number; document: T; changedAt: string }) => S,
) {
  const answered = ({ changed_at, ...draft }: Draft<T>): S =>
    as({ ...draft, changedAt: changed_at.toISOString() });
  const first = ([row]: readonly Draft<T>[]): S | undefined => row && answered(row);
  return {
    /** All of them, the newest change first. */
    list: async (db: Queries): Promise<S[]> =>
      (await db.query<Draft<T>>(`select ${COLUMNS} from ${table} order by changed_at desc, id`)).map(
        answered,
      ),
    find: async (db: Queries, id: string): Promise<S | undefined> =>
      first(await db.query<Draft<T>>(`select ${COLUMNS} from ${table} where id = $1`, [id])),
    async add(db: Queries, id: string, document: T, at: Date): Promise<S> {
      const rows = await db.query<Draft<T>>(
        `insert into ${table} (id, version, document, changed_at) values ($1, 1, $2, $3) returning ${COLUMNS}`,
        [id, JSON.stringify(document), at],
      );
      return one(rows.map(answered)[0]);
    },
    /** Saves it over the version it was made from; undefined when that is no longer the newest. */
    save: async (
      db: Queries,
      id: string,
      document: T,
      fromVersion: number,
      at: Date,
    ): Promise<S | undefined> =>
      first(
        await db.query<Draft<T>>(
          `update ${table} set document = $2, version = version + 1, changed_at = $4 where id = $1 and version = $3 returning ${COLUMNS}`,
          [id, JSON.stringify(document), fromVersion, at],
        ),
      ),
    drop: async (db: Queries, id: string): Promise<void> => {
      await db.query(`delete from ${table} where id = $1`, [id]);
    },
  };
}
