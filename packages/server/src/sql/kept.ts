import type { Kept } from '@jolly/contract/endpoints/kept';
import type { KeptKind } from '@jolly/core/image/wayBack';
import { one, type Queries } from './db';

interface Row {
  id: string | number;
  kind: KeptKind;
  name: string;
  board_id: string;
  board_revision: string;
  board_copy: number | null;
  hash: string;
  bytes: number;
  format: Kept['format'];
  source: Kept['source'];
  verdict: Kept['verdict'];
  evidence: string[];
  at: Date;
}
const stored = ({ id, board_id, board_revision, board_copy, at, ...row }: Row): Kept => ({
  ...row,
  id: Number(id),
  board: { id: board_id, revision: board_revision, ...(board_copy !== null && { copy: board_copy }) },
  at: at.toISOString(),
});
const COLUMNS =
  'id, kind, name, board_id, board_revision, board_copy, hash, bytes, format, source, verdict, evidence, at';

export async function listKept(db: Queries, machine: string): Promise<Kept[]> {
  return (
    await db.query<Row>(`select ${COLUMNS} from kept where machine = $1 order by at desc, id desc`, [machine])
  ).map(stored);
}

export async function findKept(db: Queries, machine: string, id: number): Promise<Kept | undefined> {
  const [row] = await db.query<Row>(`select ${COLUMNS} from kept where machine = $1 and id = $2`, [
    machine,
    id,
  ]);
  return row && stored(row);
}

/** Keeps something that is not kept yet. */
export async function addKept(
  db: Queries,
  machine: string,
  kept: Omit<Kept, 'id' | 'at'> & { at: Date },
): Promise<Kept> {
  const [row] = await db.query<Row>(
    `insert into kept (machine, kind, name, board_id, board_revision, hash, bytes, format, source, verdict, evidence, at, board_copy)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) returning ${COLUMNS}`,
    [
      machine, kept.kind, kept.name, kept.board.id, kept.board.revision, kept.hash, kept.bytes, kept.format,
      kept.source, kept.verdict, JSON.stringify(kept.evidence), kept.at, kept.board.copy ?? null,
    ], // prettier-ignore
  );
  return stored(one(row));
}
