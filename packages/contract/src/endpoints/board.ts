import { IMAGE_FORMATS, LARGEST_IMAGE } from '@jolly/core/image/imageFile';
import type { BootloaderKnown } from '@jolly/core/flash/chooseRoute';
import Joi from 'joi';
import type { ProofStep } from '@jolly/core/proofs/proof';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { bytes, endpoint, events, json } from '../endpoint';
import { recording } from '../recording';
import { done, fileName, hash, ofMachine, shortLine } from '../params';
import {
  both,
  count,
  flag,
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

/** Routes by which a tool writes over a wire. */
export const TOOL_ROUTES = ['serial', 'programmer', 'probe', 'drive', 'update-class'] as const;
export type ToolRoute = (typeof TOOL_ROUTES)[number];

/** How many flash attempts are listed at most. */
export const MOST_FLASHES = 100;

/** A memory card with what lies in its root. */
const card = object({
  format: oneOf('FAT32', 'exFAT'),
  sizeGb: of<number>(() => Joi.number().integer().min(1).max(2048)),
  files: list(
    object({
      name: of<string>(() =>
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
  /** Names written on real cards; whether a board took them is not seen here. */
  namesWritten: optional(list(text)),
  card: nullable(card),
  /** What else stands in its flash, where it is not as it was sold. */
  boot: optional(
    object({
      /** Base64, without the erased end of its room. */
      bootloader: optional(text),
      fromStart: optional(of<true>(() => Joi.valid(true))),
      locked: optional(flag),
    }),
  ),
});
export type StoredBoard = TypeOf<typeof storedBoard>;

/** A screw of the plate and where it stands, mm, with how far it was turned up since it was found. */
const turnedScrew = object({
  screw: of<string>(() => Joi.string().min(1).max(40)),
  x: of<number>(() => Joi.number().min(-5000).max(5000)),
  y: of<number>(() => Joi.number().min(-5000).max(5000)),
  up: of<number>(() => Joi.number().min(-50).max(50)),
});
export type TurnedScrew = TypeOf<typeof turnedScrew>;

const boardOnBench = both(
  storedBoard,
  object({
    /** How the plate lies on its screws: that outlives power-offs and windows. */
    screws: optional(list(turnedScrew, 8)),
    image: optional(known<ImageHeader>('name', 'buildId', 'target', 'loadAddress')),
    /** Guard settings that are off in its image; missing where what that was built with is not known. */
    guardsOff: optional(list(text)),
    /** Whether there is a bootloader, as far as anybody can know. */
    bootloader: known<BootloaderKnown>('is', 'because'),
  }),
);
export type BoardOnBench = TypeOf<typeof boardOnBench>;

const outcome = known<CardOutcome>('taken');
const flashed = object({ outcome, board: storedBoard });
export type Flashed = TypeOf<typeof flashed>;

/** What a tool does at a board. */
const does = oneOf('try', 'write', 'bootloader');

/** One attempt at writing an image to a board. */
const flash = object({
  id: text,
  imageHash: nullable(text),
  route: text,
  does,
  /** Id and revision of the board; missing in records of before. */
  board: optional(text),
  fromStart: flag,
  fileName: text,
  at: moment,
  outcome,
});
export type Flash = TypeOf<typeof flash>;

/** An image file of somebody else, and what speaks for and against it. */
const foreignImage = object({
  hash: text,
  name: text,
  bytes: count,
  verdict: oneOf('fits', 'doubtful', 'empty'),
  evidence: list(text),
});
export type ForeignImage = TypeOf<typeof foreignImage>;

/** How it stands with writing by a tool. */
const flashRun = object({
  state: oneOf('none', 'running', 'ended'),
  /** The board it is about; what came of another one is not told. */
  board: optional(text),
  route: optional(text),
  does: optional(does),
  outcome: optional(outcome),
});
export type FlashRun = TypeOf<typeof flashRun>;

const laid = list(shortLine(40), 60);
/** What shall be done by a tool, and with what. */
const flashOrder = object({
  route: of<ToolRoute>(() => Joi.valid(...TOOL_ROUTES)),
  does,
  /** An image that is stored, by its hash, or something kept, by its number. */
  image: optional(
    of<{ hash: string; name: string } | { kept: number }>(() =>
      Joi.alternatives(
        Joi.object({ hash: hash.joi.required(), name: Joi.string().max(64).required() }),
        Joi.object({ kept: Joi.number().integer().min(1).required() }),
      ),
    ),
  ),
  /** Faults of the bench that are laid around the board. */
  laid,
  /** How many times faster than the machine's own time; 0 as fast as can be. */
  pace: of<number>(() => Joi.number().min(0).max(1000)),
});
export type FlashOrder = TypeOf<typeof flashOrder>;

const proofOutcome = oneOf('proven', 'failed');

/** The outcome of one bring-up test; it belongs to the image that ran and to the machine as it was. */
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

/** What was tested and does not hold any more, because something it rests on is another since. */
const voidedProof = object({ step: text, title: text, outcome: proofOutcome, because: text, at: moment });
export type VoidedProof = TypeOf<typeof voidedProof>;

const proofs = object({
  imageHash: nullable(text),
  steps: list(known<ProofStep>('id', 'title', 'act', 'restsOn', 'after', 'causes')),
  /** What holds of the image in the flash and the machine as it is. */
  proofs: list(proof),
  voided: list(voidedProof),
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
    body: object({ store: of<string>(() => Joi.string().base64().max(100_000)) }),
    answer: json(done),
    refusals: ['unknown-id'],
  }),
  putScrews: endpoint('put /machines/{id}/bench/screws', {
    summary: 'Keep how far the screws of the plate were turned at the bench, mm',
    params: ofMachine,
    body: object({ screws: list(turnedScrew, 8) }),
    answer: json(done),
    refusals: ['unknown-id'],
  }),
  flash: endpoint('post /machines/{id}/flashes', {
    summary: 'Switch the power on with the card in the slot',
    params: ofMachine,
    body: object({ laid }),
    answer: json(flashed),
    refusals: [...FLASHING, 'no-card'],
  }),
  flashes: endpoint('get /machines/{id}/flashes', {
    summary: 'Flash attempts, newest first',
    params: ofMachine,
    answer: json(list(flash)),
  }),
  startFlash: endpoint('post /machines/{id}/flash-run', {
    summary: 'Call the bootloader, write an image or install a bootloader, by a tool over a wire',
    params: ofMachine,
    body: flashOrder,
    answer: json(flashRun),
    refusals: [...FLASHING, 'busy', 'no-image', 'impossible', 'ending'],
  }),
  flashRun: endpoint('get /machines/{id}/flash-run', {
    summary: 'How it stands with writing by a tool',
    params: ofMachine,
    answer: json(flashRun),
  }),
  flashEvents: endpoint('get /machines/{id}/flash-run/events', {
    summary: 'Progress of writing by a tool as server-sent events: `progress`, then `ended`',
    params: ofMachine,
    answer: events,
  }),
  breakFlash: endpoint('post /machines/{id}/flash-run/break', {
    summary: 'Break off writing by a tool: cancelled, or the power goes. What is written by then stays',
    params: ofMachine,
    body: object({ by: oneOf('cancelled', 'power lost') }),
    answer: json(flashRun),
    refusals: ['not-running'],
  }),
  wroteCard: endpoint('post /machines/{id}/cards-written', {
    summary: 'A file was written on a real card and read back the same: its name counts as used from now on',
    params: ofMachine,
    body: object({ fileName: shortLine(64), imageHash: hash }),
    answer: json(storedBoard),
    refusals: ['unknown-id'],
  }),
  imageForBoard: endpoint('get /machines/{id}/images/{hash}/{format}', {
    summary:
      'Any stored image as a file for the board of a machine, at its address, read back before it is sent',
    params: { ...ofMachine, hash, format: oneOf(...IMAGE_FORMATS) },
    query: { name: fileName },
    answer: bytes,
    refusals: ['unknown-id', 'bad-file', 'too-hard'],
  }),
  addImage: endpoint('post /machines/{id}/images', {
    summary: 'Take in an image file that somebody else made, and say whether it can be one of this board',
    params: ofMachine,
    query: { name: fileName },
    takesBytes: LARGEST_IMAGE,
    answer: json(foreignImage),
    refusals: ['unknown-id', 'bad-file', 'too-hard'],
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
