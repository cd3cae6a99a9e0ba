import { bytes, endpoint, json } from '../endpoint';
import { done, id, number, ofMachine } from '../params';
import { count, list, object, oneOf, record, text, type TypeOf } from '../shape';

/** One piece of an archive on its way in, in bytes. */
export const PIECE_BYTES = 4 * 2 ** 20;

const planned = object({
  id: text,
  name: text,
  /** What it is beside what stands here. */
  state: oneOf('new', 'same', 'different'),
});
export type Planned = TypeOf<typeof planned>;

/** Everything of one machine, or of the shelf, as one zip; out and in again. */
export const archives = {
  machineArchive: endpoint('get /machines/{id}/archive', {
    summary: 'A machine with its history, photos, images, proofs, own boards and parts, as one zip',
    params: ofMachine,
    answer: bytes,
  }),
  shelfArchive: endpoint('get /shelf/archive', {
    summary: 'Every machine on the shelf with all that belongs to it, as one zip',
    answer: bytes,
    refusals: ['nothing-to-do'],
  }),
  beginUpload: endpoint('post /uploads', {
    summary: 'Begin to bring an archive in',
    answer: json(object({ id: text })),
  }),
  addToUpload: endpoint('put /uploads/{id}/{number}', {
    summary: 'The next piece of it, counted from 0',
    params: { id, number },
    takesBytes: PIECE_BYTES,
    answer: json(object({ pieces: count })),
    refusals: ['not-so'],
  }),
  uploadPlan: endpoint('get /uploads/{id}/archive', {
    summary: 'What taking it in would do; nothing is changed by asking',
    params: { id },
    answer: json(list(planned)),
    refusals: ['bad-file'],
  }),
  takeUpload: endpoint('post /uploads/{id}/archive', {
    summary:
      'Take it in, all or nothing; of what is different here, leave it, take it in as another, or put it in the place of what stands here',
    params: { id },
    body: object({ choices: record(oneOf('leave', 'another', 'replace')) }),
    answer: json(list(text)),
    refusals: ['bad-file', 'not-so', 'id-taken', 'unknown-id'],
  }),
  dropUpload: endpoint('delete /uploads/{id}', {
    summary: 'Throw what was brought so far away',
    params: { id },
    answer: json(done),
  }),
};
