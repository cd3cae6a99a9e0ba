import type { Recording } from '@jolly/bench';
import type { Proof } from '@jolly/contract/endpoints/board';
import type { Queries } from './db';

export async function addProof(
  db: Queries,
  machine: string,
  proof: Omit<Proof, 'at'> & { at: Date; recording: Recording },
): Promise<void> {
  await db.query(
    'insert into proof (machine, step, image_hash, outcome, evidence, at, recording, finding) values ($1, $2, $3, $4, $5, $6, $7, $8)',
    [
      machine,
      proof.step,
      proof.imageHash,
      proof.outcome,
      JSON.stringify(proof.evidence),
      proof.at,
      JSON.stringify(proof.recording),
      proof.finding ?? null,
    ],
  );
}

/** The newest proof of each step that was made with this image. */
export async function proofsOf(db: Queries, machine: string, imageHash: string): Promise<Proof[]> {
  const rows = await db.query<{
    step: string;
    image_hash: string;
    outcome: Proof['outcome'];
    evidence: string[];
    finding: string | null;
    at: Date;
  }>(
    'select distinct on (step) step, image_hash, outcome, evidence, finding, at from proof where machine = $1 and image_hash = $2 order by step, at desc, id desc',
    [machine, imageHash],
  );
  return rows.map((row) => ({
    step: row.step,
    imageHash: row.image_hash,
    outcome: row.outcome,
    evidence: row.evidence,
    ...(row.finding !== null && { finding: row.finding }),
    at: row.at.toISOString(),
  }));
}
