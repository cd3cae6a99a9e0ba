import type { Proof, Proofs } from '@jolly/contract/endpoints/board';
import { Refusal } from '@jolly/contract/refusal';
import { proofSteps } from '@jolly/core/bringup/proofs';
import { type Context, transact, type Within } from '../context';
import { addEntry } from '../sql/entries';
import { addProof, proofsOf } from '../sql/proofs';
import { boardOf } from './board';
import { theFacts } from './known';

/** What bring-up asks of a machine, and what is proven for the image in its flash. */
export async function proofs(context: Within, id: string): Promise<Proofs> {
  const facts = await theFacts(context, id);
  const { imageHash } = await boardOf(context, facts);
  return {
    imageHash,
    steps: proofSteps(facts),
    proofs: imageHash ? await proofsOf(context.db, id, imageHash) : [],
  };
}

/** Records the outcome of one bring-up test on the image in the flash. */
export function prove(
  context: Context,
  id: string,
  { step, outcome, evidence }: Pick<Proof, 'step' | 'outcome' | 'evidence'>,
): Promise<Proofs> {
  return transact(context, async (within) => {
    const { imageHash, steps } = await proofs(within, id);
    const title = steps.find((entry) => entry.id === step)?.title;
    if (!title)
      throw new Refusal('bad-value', `"step" must be one of ${steps.map((entry) => entry.id).join(', ')}`, {
        path: 'step',
      });
    if (!imageHash) throw new Refusal('no-image', 'nothing is flashed that could be proven');
    await addProof(within.db, id, { step, imageHash, outcome, evidence, at: context.now() });
    await addEntry(within.db, id, {
      at: context.now(),
      kind: 'proof',
      summary: `${title}: ${outcome === 'proven' ? 'proven' : 'not so'}`,
      detail: { step, imageHash, evidence },
    });
    return proofs(within, id);
  });
}
