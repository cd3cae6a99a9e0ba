import Joi from 'joi';
import { POLICIES, type Policy } from '@jolly/core/fleet/policy';
import { line } from '@jolly/core/text/plainText';
import { bytes, endpoint, json } from '../endpoint';
import { ofMachine } from '../params';
import { count, list, nullable, object, of, oneOf, optional, type TypeOf } from '../shape';
import { entry, ENTRY_KINDS } from './machines';

/** A page of the time line has so many entries at most. */
export const TIMELINE_PAGE = 200;

const kinds = of<string>(() =>
  Joi.string()
    .pattern(/^[a-z]+(,[a-z]+)*$/, 'kinds parted by commas')
    .max(120),
);
const digits = of<string>(() => Joi.string().pattern(/^\d{1,12}$/, 'a number'));

const timeline = object({
  entries: list(entry),
  /** How many there are with these filters, on all pages. */
  total: count,
});
export type Timeline = TypeOf<typeof timeline>;

const policy = of<Policy>(() => Joi.valid(...POLICIES));

/** What a record can leave as. */
export const RECORD_FORMATS = ['csv', 'md'] as const;

export const record = {
  timeline: endpoint('get /machines/{id}/timeline', {
    summary: `The logbook, newest first, ${TIMELINE_PAGE} entries a page: of some kinds (${ENTRY_KINDS.join(', ')}), with some words, from an entry on`,
    params: ofMachine,
    query: { kinds: optional(kinds), words: optional(of<string>(() => line(120))), from: optional(digits) },
    answer: json(timeline),
    refusals: ['bad-value'],
  }),
  recordFile: endpoint('get /machines/{id}/record/{format}', {
    summary:
      'The whole logbook with what was measured, as CSV (with a byte-order mark where asked) or Markdown',
    params: { ...ofMachine, format: oneOf(...RECORD_FORMATS) },
    query: { mark: optional(oneOf('yes')) },
    answer: bytes,
  }),
  policy: endpoint('get /machines/{id}/policy', {
    summary: 'When this machine is to be updated, if somebody has said so',
    params: ofMachine,
    answer: json(object({ policy: nullable(policy) })),
  }),
  setPolicy: endpoint('put /machines/{id}/policy', {
    summary: 'Say when this machine is to be updated',
    params: ofMachine,
    body: object({ policy: nullable(policy) }),
    answer: json(object({ policy: nullable(policy) })),
  }),
};
