import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { proofSteps } from '@jolly/core/bringup/proofs';
import { boardOf, flashFromCard, putCard, putStore } from '../board/virtualBoard';
import { type Context, factsOr422, machineOr404 } from '../context';
import { findImage } from '../sql/images';
import type { StoredCard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { listFlashes } from '../sql/flashes';
import { addProof, type Proof, proofsOf } from '../sql/proofs';
import { ApiError } from './apiError';
import type { Endpoint } from './endpoint';
import { hash, idParams } from './params';

/** How many flash attempts are listed at most. */
const FLASHES = 100;

const cardSchema = Joi.object({
  format: Joi.valid('FAT32', 'exFAT').required(),
  sizeGb: Joi.number().integer().min(1).max(2048).required(),
  files: Joi.array()
    .items(
      Joi.object({
        name: Joi.string()
          .min(1)
          .max(64)
          .pattern(/^[^/\\]+$/, 'a file name without slashes')
          .required(),
        imageHash: hash().required(),
      }),
    )
    .max(8)
    .required(),
});

export function boardEndpoints(context: Context): Endpoint[] {
  const facts = async (id: string) => factsOr422(context, (await machineOr404(context, id)).machine);
  return [
    {
      method: 'get',
      path: '/machines/{id}/board',
      summary: 'The virtual board: what is in its flash, its stored settings and the card in its slot',
      params: idParams,
      run: async ({ params }) => {
        const board = await boardOf(context, await facts(params['id']!));
        const image = board.imageHash ? await findImage(context.db, board.imageHash) : undefined;
        return { ...board, ...(image?.header && { image: image.header }) };
      },
    },
    {
      method: 'put',
      path: '/machines/{id}/board/card',
      summary: 'Write a card and put it into the slot, or take it out (null)',
      params: idParams,
      body: Joi.object({ card: cardSchema.allow(null).required() }),
      run: ({ params, body }) => putCard(context, params['id']!, (body as { card: StoredCard | null }).card),
    },
    {
      method: 'put',
      path: '/machines/{id}/board/store',
      summary: 'Keep the stored settings the firmware wrote (base64)',
      params: idParams,
      body: Joi.object({ store: Joi.string().base64().max(100_000).required() }),
      run: ({ params, body }) => putStore(context, params['id']!, (body as { store: string }).store),
    },
    {
      method: 'post',
      path: '/machines/{id}/flashes',
      summary: 'Switch the power on with the card in the slot',
      params: idParams,
      run: ({ params }) => flashFromCard(context, params['id']!),
    },
    {
      method: 'get',
      path: '/machines/{id}/flashes',
      summary: 'Flash attempts, newest first',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listFlashes(context.db, params['id']!, FLASHES);
      },
    },
    {
      method: 'get',
      path: '/machines/{id}/proofs',
      summary: 'What bring-up asks of this machine, and what is proven for the image in its flash',
      params: idParams,
      run: async ({ params }) => {
        const known = await facts(params['id']!);
        const { imageHash } = await boardOf(context, known);
        return {
          imageHash,
          steps: proofSteps(known),
          proofs: imageHash ? await proofsOf(context.db, params['id']!, imageHash) : [],
        };
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/proofs',
      summary: 'Record the outcome of one bring-up test on the image in the flash',
      params: idParams,
      body: Joi.object({
        step: line(40).required(),
        outcome: Joi.valid('proven', 'failed').required(),
        evidence: Joi.array().items(line(500)).max(50).required(),
      }),
      run: ({ params, body }) =>
        prove(context, params['id']!, body as Pick<Proof, 'step' | 'outcome' | 'evidence'>),
    },
  ];
}

async function prove(
  context: Context,
  id: string,
  { step, outcome, evidence }: Pick<Proof, 'step' | 'outcome' | 'evidence'>,
): Promise<unknown> {
  const known = factsOr422(context, (await machineOr404(context, id)).machine);
  const title = proofSteps(known).find((entry) => entry.id === step)?.title;
  if (!title)
    throw new ApiError(
      400,
      'bad-value',
      `"step" must be one of ${proofSteps(known)
        .map((entry) => entry.id)
        .join(', ')}`,
      { path: 'step' },
    );
  const { imageHash } = await boardOf(context, known);
  if (!imageHash) throw new ApiError(409, 'no-image', 'nothing is flashed that could be proven');
  await context.db.transaction(async (inside) => {
    await addProof(inside, id, { step, imageHash, outcome, evidence, at: context.now() });
    await addEntry(inside, id, {
      at: context.now(),
      kind: 'proof',
      summary: `${title}: ${outcome === 'proven' ? 'proven' : 'not so'}`,
      detail: { step, imageHash, evidence },
    });
  });
  return { imageHash, steps: proofSteps(known), proofs: await proofsOf(context.db, id, imageHash) };
}
