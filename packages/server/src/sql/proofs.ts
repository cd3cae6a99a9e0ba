import type { Recording } from '@jolly/bench';
import type { Proof } from '@jolly/contract/endpoints/board';
import type { StoredValues } from '@jolly/core/kit/storedSettings';
import type { Grounds } from '@jolly/core/machine/ground';
import type { Queries } from './db';

/** A proof with the facts it rests on, and what the board stored then; missing in records of before they were kept. */
export type StoredProof = Proof & { grounds?: Grounds; stored?: StoredValues };

export async function addProof(
  db: Queries,
  machine: string,
  proof: Omit<Proof, 'at'> & { at: Date; recording: Recording; grounds: Grounds; stored: StoredValues },
): Promise<void> {
  await db.query(
    'insert into proof (machine, step, image_hash, outcome, evidence, at, recording, finding, grounds, stored) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)',
    [
      machine,
      proof.step,
      proof.imageHash,
      proof.outcome,
      JSON.stringify(proof.evidence),
      proof.at,
      JSON.stringify(proof.recording),
      proof.finding ?? null,
      JSON.stringify(proof.grounds),
      JSON.stringify(proof.stored),
    ],
  );
}

interface Row {
  machine: string;
  step: string;
  image_hash: string;
  outcome: Proof['outcome'];
  evidence: string[];
  finding: string | null;
  grounds: Grounds | null;
  stored: StoredValues | null;
  at: Date;
}
const COLUMNS = 'machine, step, image_hash, outcome, evidence, finding, grounds, stored, at';
const readRow = (row: Row): StoredProof => ({
  step: row.step,
  imageHash: row.image_hash,
  outcome: row.outcome,
  evidence: row.evidence,
  ...(row.finding !== null && { finding: row.finding }),
  ...(row.grounds && { grounds: row.grounds }),
  ...(row.stored && { stored: row.stored }),
  at: row.at.toISOString(),
});

/** The newest proof of each step that was made with this image. */
export async function proofsOf(db: Queries, machine: string, imageHash: string): Promise<StoredProof[]> {
  const rows = await db.query<Row>(
    `select distinct on (step) ${COLUMNS} from proof where machine = $1 and image_hash = $2 order by step, at desc, id desc`,
    [machine, imageHash],
  );
  return rows.map(readRow);
}

/** The newest proof of each step with each image that lies in a virtual board, of all machines. */
export async function proofsOnBoards(db: Queries): Promise<readonly (StoredProof & { machine: string })[]> {
  const rows = await db.query<Row>(
    `select distinct on (machine, image_hash, step) ${COLUMNS} from proof
     where (machine, image_hash) in (select machine, image_hash from board)
     order by machine, image_hash, step, at desc, id desc`,
  );
  return rows.map((row) => ({ ...readRow(row), machine: row.machine }));
}
