import type { StoredDescription } from '@jolly/contract/endpoints/descriptions';
import type { Description } from '@jolly/core/describe/description';
import { one, type Queries } from './db';

interface Row {
  id: string;
  version: number;
  document: Description;
  changed_at: Date;
}
const COLUMNS = 'id, version, document, changed_at';
const stored = ({ id, version, document, changed_at }: Row): StoredDescription => ({
  id,
  version,
  description: document,
  changedAt: changed_at.toISOString(),
});

export async function listDescriptions(db: Queries): Promise<StoredDescription[]> {
  return (await db.query<Row>(`select ${COLUMNS} from description order by changed_at desc, id`)).map(stored);
}

export async function findDescription(db: Queries, id: string): Promise<StoredDescription | undefined> {
  const [row] = await db.query<Row>(`select ${COLUMNS} from description where id = $1`, [id]);
  return row && stored(row);
}

export async function addDescription(
  db: Queries,
  id: string,
  description: Description,
  at: Date,
): Promise<StoredDescription> {
  const [row] = await db.query<Row>(
    `insert into description (id, version, document, changed_at) values ($1, 1, $2, $3) returning ${COLUMNS}`,
    [id, JSON.stringify(description), at],
  );
  return stored(one(row));
}

/** Saves a description over the version it was made from; undefined when that is no longer the newest. */
export async function saveDescription(
  db: Queries,
  id: string,
  description: Description,
  fromVersion: number,
  at: Date,
): Promise<StoredDescription | undefined> {
  const [row] = await db.query<Row>(
    `update description set document = $2, version = version + 1, changed_at = $4 where id = $1 and version = $3 returning ${COLUMNS}`,
    [id, JSON.stringify(description), fromVersion, at],
  );
  return row && stored(row);
}

export async function dropDescription(db: Queries, id: string): Promise<void> {
  await db.query('delete from description where id = $1', [id]);
}
