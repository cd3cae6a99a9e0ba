import Joi from 'joi';
import { type Description, descriptionSchema } from '@jolly/core/describe/description';
import type { Part } from '@jolly/core/parts/part';
import { LONGEST_DUMP, LONGEST_YAML } from '@jolly/core/text/limits';
import { bytes, endpoint, json } from '../endpoint';
import { place, storedMachine } from '../machine';
import { done, id, ofMachine } from '../params';
import {
  anyOf,
  component,
  count,
  known,
  list,
  moment,
  object,
  of,
  oneOf,
  optional,
  text,
  type TypeOf,
} from '../shape';

const description = of<Description>(descriptionSchema);
/** A machine that is being described, as it is stored. */
const storedDescription = object({
  id: text,
  /** Counted up with every save; a save must name the version it was made from. */
  version: count,
  description: known<Description>('jolly', 'answers'),
  changedAt: moment,
});
export type StoredDescription = TypeOf<typeof storedDescription>;

const begun = object({
  stored: storedDescription,
  /** Of a settings report: values that were taken, and lines that no dialect reads. */
  taken: optional(count),
  unread: optional(count),
});
export type Begun = TypeOf<typeof begun>;

/** A machine from nothing: descriptions, own parts, and what is laid on the shelf and taken off it. */
export const descriptions = {
  descriptions: endpoint('get /descriptions', {
    summary: 'Machines that are being described, the newest change first',
    answer: json(list(storedDescription)),
  }),
  beginDescription: endpoint('post /descriptions', {
    summary: 'Begin to describe a machine: from nothing, as a copy of one, or from a settings report',
    body: anyOf(
      object({ from: oneOf('nothing') }),
      object({ from: oneOf('machine'), machine: id }),
      object({ from: oneOf('report'), text: of<string>(() => Joi.string().max(LONGEST_DUMP)) }),
    ),
    answer: json(begun),
    refusals: ['not-so', 'too-hard', 'too-many'],
  }),
  description: endpoint('get /descriptions/{id}', {
    summary: 'One that is being described',
    params: ofMachine,
    answer: json(storedDescription),
  }),
  saveDescription: endpoint('put /descriptions/{id}', {
    summary: 'Save it over the version it was made from',
    params: ofMachine,
    body: object({ version: of<number>(() => Joi.number().integer().min(1)), description }),
    answer: json(storedDescription),
    refusals: ['stale', 'not-so'],
  }),
  dropDescription: endpoint('delete /descriptions/{id}', {
    summary: 'Throw a description away',
    params: ofMachine,
    answer: json(done),
  }),
  shelve: endpoint('post /descriptions/{id}/machine', {
    summary: 'Make the machine file and put it on the shelf; the description is done with',
    params: ofMachine,
    answer: json(storedMachine),
    refusals: ['not-so', 'unknown-id'],
  }),
  addPart: endpoint('post /parts', {
    summary: 'Add a part from a part file (YAML), or replace one that was added here before',
    body: object({ file: of<string>(() => Joi.string().max(LONGEST_YAML)) }),
    answer: json(component('Part', known<Part>('id', 'name', 'kind'))),
    refusals: ['bad-file', 'too-hard', 'id-taken'],
  }),
  partFile: endpoint('get /parts/{id}/file', {
    summary: 'A part as a file (YAML)',
    params: { id },
    answer: bytes,
  }),
  demo: endpoint('get /demo', {
    summary: 'Demo machines that are on the shelf, by id',
    answer: json(list(text)),
  }),
  layDemo: endpoint('post /demo', {
    summary: 'Lay the three demo machines on the shelf',
    answer: json(list(text)),
  }),
  takeDemoOff: endpoint('delete /demo', {
    summary: 'Take the demo machines off the shelf again; those that were changed too',
    answer: json(list(text)),
  }),
  copyMachine: endpoint('post /machines/{id}/copy', {
    summary: 'Put a copy of a machine on the shelf, under a name of its own, without its history',
    params: ofMachine,
    body: object({ name: text }),
    answer: json(storedMachine),
    refusals: ['bad-value', 'unknown-id'],
  }),
  putAway: endpoint('post /machines/{id}/place', {
    summary: 'Archive a machine, delete it, or put it back on the shelf',
    params: ofMachine,
    body: object({ at: place }),
    answer: json(storedMachine),
    refusals: ['job-open'],
  }),
  archive: endpoint('get /archive', {
    summary: 'Machines that are not on the shelf: archived, or deleted and not yet replaced',
    answer: json(list(object({ id: text, name: text, place: text, at: oneOf('archive', 'bin') }))),
  }),
};
