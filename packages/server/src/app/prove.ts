import type { Recording } from '@jolly/bench';
import type { Proof, Proofs, VoidedProof } from '@jolly/contract/endpoints/board';
import { Refusal } from '@jolly/contract/refusal';
import { fromBase64 } from '@jolly/core/bytes/base64';
import { readStore } from '@jolly/core/kit/storedSettings';
import type { Facts } from '@jolly/core/machine/facts';
import { groundsOf, voidBecause } from '@jolly/core/machine/ground';
import type { ProofStep } from '@jolly/core/proofs/proof';
import { proofSteps, restsOnStored, unreadyFor } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import type { Settings } from '@jolly/core/settings/setting';
import { storedOtherwise } from '@jolly/core/settings/storedOtherwise';
import { type Context, transact, type Within } from '../context';
import { addEntry } from '../sql/entries';
import { addProof, proofsOf, type StoredProof } from '../sql/proofs';
import { boardOf, imageBytes } from './board';
import { theFacts } from './known';

/** What bring-up asks of a machine, and what is proven for the image in its flash. */
export async function proofs(context: Within, id: string): Promise<Proofs> {
  const facts = await theFacts(context, id);
  const settings = derive(facts);
  const { imageHash, store } = await boardOf(context, facts);
  const now: AsItIs = { facts, settings, store };
  const steps = proofSteps(facts, settings);
  const found = imageHash ? await proofsOf(context.db, id, imageHash) : [];
  const titles = new Map(steps.map(({ id: step, title }) => [step, title]));
  return {
    imageHash,
    steps,
    proofs: stillHolding(found, now),
    voided: found.flatMap((proof): VoidedProof[] => {
      const { step, outcome, at } = proof;
      const [title, because] = [titles.get(step), voidOf(proof, now)];
      return title !== undefined && because !== undefined ? [{ step, title, outcome, because, at }] : [];
    }),
  };
}

/** A machine with what its board stores, as both are now. */
interface AsItIs {
  facts: Facts;
  settings: Settings;
  /** The bytes of the store, in base64. */
  store: string;
}

/** Why a proof does not hold any more; undefined while it does. */
function voidOf(
  { step, grounds, stored }: StoredProof,
  { facts, settings, store }: AsItIs,
): string | undefined {
  const because = voidBecause(grounds, facts);
  if (because !== undefined || !restsOnStored(step)) return because;
  return storedOtherwise(readStore(fromBase64(store), facts.kit), stored, { kit: facts.kit, settings });
}

/** The outcomes that rest on nothing that is another since they were found. */
export const stillHolding = (found: readonly StoredProof[], now: AsItIs): Proof[] =>
  found
    .filter((proof) => voidOf(proof, now) === undefined)
    .map(({ grounds: _grounds, stored: _stored, ...proof }) => proof);

/** What a window says it has tested, and the run it rests on. */
type Tested = Pick<Proof, 'step' | 'outcome' | 'evidence' | 'finding'> & { recording: Recording };

/**
 * Records the outcome of one bring-up test on the image in the flash. The run behind it is run again first, away from
 * the server's thread; one that then says something else proves nothing.
 */
export async function prove(
  context: Context,
  id: string,
  { step, outcome, evidence, finding, recording }: Tested,
): Promise<Proofs> {
  const asked = await stepAsked(context, id, step);
  if (outcome === 'proven') refuseUnready(asked.unready);
  const facts = await theFacts(context, id);
  const grounds = groundsOf(facts, asked.restsOn);
  const image = await imageBytes(context, asked.imageHash);
  const differs = await context.replaying.read('replay', { facts, image, recording });
  if (differs !== undefined)
    throw new Refusal('not-so', `run again with the machine and image as they are now, ${differs}`);
  return transact(context, async (within) => {
    const { imageHash, title } = await stepAsked(within, id, step);
    if (imageHash !== asked.imageHash)
      throw new Refusal('not-so', 'another image was flashed while this was run again');
    const said = { outcome, evidence, ...(finding !== undefined && { finding }) };
    const { store } = await boardOf(within, facts);
    const stored = readStore(fromBase64(store), facts.kit);
    await addProof(within.db, id, {
      step,
      imageHash,
      ...said,
      recording,
      grounds,
      stored,
      at: context.now(),
    });
    await addEntry(within.db, id, {
      at: context.now(),
      kind: 'proof',
      summary: `${title}: ${outcome === 'proven' ? 'proven' : 'not so'}`,
      detail: { step, imageHash, evidence },
    });
    return proofs(within, id);
  });
}

/** The step that is meant and the image in the flash. @throws {Refusal} for a step that is none, and without an image */
async function stepAsked(
  context: Within,
  id: string,
  step: string,
): Promise<{ imageHash: string; title: string; unready: string[] } & Pick<ProofStep, 'restsOn'>> {
  const known = await proofs(context, id);
  const { imageHash, steps } = known;
  const asked = steps.find((entry) => entry.id === step);
  if (!asked)
    throw new Refusal('bad-value', `"step" must be one of ${steps.map((entry) => entry.id).join(', ')}`, {
      path: 'step',
    });
  if (!imageHash) throw new Refusal('no-image', 'nothing is flashed that could be proven');
  const { title, restsOn } = asked;
  return { imageHash, title, restsOn, unready: unreadyFor(asked, known).map((open) => open.title) };
}

/** A step that could hurt, or would prove nothing, before others are proven. */
function refuseUnready(titles: string[]): void {
  if (titles.length === 0) return;
  throw new Refusal('not-so', `it can only be proven after: ${titles.join('; ')}`);
}
