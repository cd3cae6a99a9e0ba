import Joi from 'joi';
import type { ProofStep } from '@jolly/core/proofs/proof';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { endpoint, json } from '../endpoint';
import { recording } from '../recording';
import { done, hash, ofMachine, shortLine } from '../params';
import {
  both,
  known,
  list,
  moment,
  nullable,
  object,
  of,
  oneOf,
  optional,
  text,
  type TypeOf,
} from '../shape';

/** How many flash attempts are listed at most. */
export const MOST_FLASHES = 100;

/** A memory card with what lies in its root. */
const card = object({
  format: oneOf('FAT32', 'exFAT'),
  sizeGb: of<number>(Joi.number().integer().min(1).max(2048)),
  files: list(
    object({
      name: of<string>(
        Joi.string()
          .min(1)
          .max(64)
          .pattern(/^[^/\\]+$/, 'a file name without slashes'),
      ),
      imageHash: hash,
    }),
    8,
  ),
});
export type StoredCard = TypeOf<typeof card>;

/** What a virtual board keeps while it is off, and the card in its slot. */
const storedBoard = object({
  imageHash: nullable(text),
  store: text,
  namesTaken: list(text),
  card: nullable(card),
});
export type StoredBoard = TypeOf<typeof storedBoard>;

const boardOnBench = both(
  storedBoard,
  object({ image: optional(known<ImageHeader>('name', 'buildId', 'target')) }),
);
export type BoardOnBench = TypeOf<typeof boardOnBench>;

const outcome = known<CardOutcome>('taken');
const flashed = object({ outcome, board: storedBoard });
export type Flashed = TypeOf<typeof flashed>;

/** One attempt at writing an image to a board. */
const flash = object({
  id: text,
  imageHash: nullable(text),
  route: text,
  fileName: text,
  at: moment,
  outcome,
});
export type Flash = TypeOf<typeof flash>;

const proofOutcome = oneOf('proven', 'failed');

/** The outcome of one bring-up test; it belongs to the image that ran. */
export const proof = object({
  step: text,
  imageHash: text,
  outcome: proofOutcome,
  evidence: list(text),
  /** What was found instead, where it failed. */
  finding: optional(text),
  at: moment,
});
export type Proof = TypeOf<typeof proof>;

const proofs = object({
  imageHash: nullable(text),
  steps: list(known<ProofStep>('id', 'title', 'act', 'restsOn', 'after', 'causes')),
  proofs: list(proof),
});
export type Proofs = TypeOf<typeof proofs>;

const FLASHING = ['unknown-id', 'no-way-back', 'other-board', 'bad-file', 'too-hard'] as const;

export const board = {
  board: endpoint('get /machines/{id}/board', {
    summary: 'The virtual board: what is in its flash, its stored settings and the card in its slot',
    params: ofMachine,
    answer: json(boardOnBench),
    refusals: ['unknown-id'],
  }),
  putCard: endpoint('put /machines/{id}/board/card', {
    summary: 'Write a card and put it into the slot, or take it out (null)',
    params: ofMachine,
    body: object({ card: nullable(card) }),
    answer: json(storedBoard),
    refusals: ['unknown-id'],
  }),
  putStore: endpoint('put /machines/{id}/board/store', {
    summary: 'Keep the stored settings the firmware wrote (base64)',
    params: ofMachine,
    body: object({ store: of<string>(Joi.string().base64().max(100_000)) }),
    answer: json(done),
    refusals: ['unknown-id'],
  }),
  flash: endpoint('post /machines/{id}/flashes', {
    summary: 'Switch the power on with the card in the slot',
    params: ofMachine,
    answer: json(flashed),
    refusals: [...FLASHING, 'no-card'],
  }),
  flashes: endpoint('get /machines/{id}/flashes', {
    summary: 'Flash attempts, newest first',
    params: ofMachine,
    answer: json(list(flash)),
  }),
  restore: endpoint('post /machines/{id}/restores', {
    summary: 'Write a kept image back to the board by programmer',
    params: ofMachine,
    body: object({ kept: of<number>(Joi.number().integer().min(1)) }),
    answer: json(flashed),
    refusals: [...FLASHING, 'no-room'],
  }),
  proofs: endpoint('get /machines/{id}/proofs', {
    summary: 'What bring-up asks of this machine, and what is proven for the image in its flash',
    params: ofMachine,
    answer: json(proofs),
    refusals: ['unknown-id'],
  }),
  prove: endpoint('post /machines/{id}/proofs', {
    summary:
      'Record the outcome of one bring-up test on the image in the flash; the run behind it is run again first',
    params: ofMachine,
    body: object({
      step: shortLine(40),
      outcome: proofOutcome,
      evidence: list(shortLine(500), 50),
      finding: optional(shortLine(40)),
      recording,
    }),
    answer: json(proofs),
    refusals: ['unknown-id', 'no-image', 'not-so', 'too-hard'],
  }),
};
