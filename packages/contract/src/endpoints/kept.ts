import { IMAGE_FORMATS, LARGEST_IMAGE } from '@jolly/core/image/imageFile';
import { KEPT_KINDS } from '@jolly/core/image/wayBack';
import Joi from 'joi';
import { bytes, endpoint, json } from '../endpoint';
import { finding } from '../machine';
import { fileName, id, numbered, ofMachine, words } from '../params';
import { count, flag, list, moment, object, of, oneOf, optional, text, type TypeOf } from '../shape';

/** Something of a board that was kept before it was changed. */
const kept = object({
  id: count,
  kind: oneOf(...KEPT_KINDS),
  name: text,
  board: object({ id: text, revision: text, copy: optional(count) }),
  hash: text,
  bytes: count,
  format: oneOf(...IMAGE_FORMATS, 'text'),
  source: oneOf('file', 'board', 'link'),
  verdict: oneOf('fits', 'doubtful', 'empty'),
  evidence: list(text),
  at: moment,
});
export type Kept = TypeOf<typeof kept>;

const keepAnswer = object({
  kept,
  /** It was kept before; nothing was stored twice. */
  already: flag,
});
export type KeepAnswer = TypeOf<typeof keepAnswer>;

/** Which board lies on the bench, and whether it is the one that a way back is wanted of. */
const onBench = object({ board: text, wanted: text, isWanted: flag });
export type OnBench = TypeOf<typeof onBench>;

/** A check that somebody set aside for a machine, in their own words. */
const waiver = object({ check: text, because: text, at: moment });
export type Waiver = TypeOf<typeof waiver>;

const wayBack = object({
  kept: list(kept),
  bench: onBench,
  findings: list(finding),
  waivers: list(waiver),
  /** Files of the demo. */
  drawer: list(text),
});
export type WayBack = TypeOf<typeof wayBack>;

const KEEPING = ['unknown-id', 'bad-file', 'too-hard'] as const;

export const keeping = {
  wayBack: endpoint('get /machines/{id}/kept', {
    summary: 'The way back: what is kept, what stops a flash, and what was waived',
    params: ofMachine,
    answer: json(wayBack),
    refusals: ['unknown-id'],
  }),
  keep: endpoint('post /machines/{id}/kept/{kind}', {
    summary:
      'Keep a file: an image (.bin, .hex, .uf2), bootloader, lock words, stored settings or a settings report',
    params: { id, kind: oneOf(...KEPT_KINDS) },
    query: { name: fileName, source: optional(oneOf('file', 'link')) },
    takesBytes: LARGEST_IMAGE,
    answer: json(keepAnswer),
    refusals: [...KEEPING, 'other-board'],
  }),
  keepFromBoard: endpoint('post /machines/{id}/kept-from-board', {
    summary: 'Read out of the virtual board whatever its chip gives, and keep it',
    params: ofMachine,
    answer: json(list(keepAnswer)),
    refusals: [...KEEPING, 'other-board'],
  }),
  keptBytes: endpoint('get /machines/{id}/kept/{number}/bytes', {
    summary: 'The bytes of something kept, as they came',
    params: numbered,
    answer: bytes,
  }),
  waive: endpoint('post /machines/{id}/waivers', {
    summary: 'Set a check aside, in words',
    params: ofMachine,
    body: object({ check: of<'keep.no-way-back'>(() => Joi.valid('keep.no-way-back')), because: words }),
    answer: json(list(waiver)),
  }),
  drawer: endpoint('get /machines/{id}/drawer/{name}', {
    summary: 'A file from the demo’s drawer',
    params: { id, name: fileName },
    answer: bytes,
  }),
};
