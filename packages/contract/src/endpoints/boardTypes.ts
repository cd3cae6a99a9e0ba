import Joi from 'joi';
import { type BegunBoard, begunBoardSchema } from '@jolly/core/board/begunBoard';
import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';
import type { Dialect, DialectLine } from '@jolly/core/report/dialect';
import { LONGEST_LINE, LONGEST_YAML } from '@jolly/core/text/limits';
import { bytes, endpoint, json } from '../endpoint';
import { done, id, ofMachine, shortLine } from '../params';
import { anyOf, component, count, known, list, moment, object, of, oneOf, text, type TypeOf } from '../shape';
import { LARGEST_PHOTO } from './photos';

const dialect = component('Dialect', known<Dialect>('id', 'name', 'lines'));
const board = component('Board', known<Board>('id', 'name', 'revision', 'chip'));
const file = of<string>(() => Joi.string().max(LONGEST_YAML));

const storedBegunBoard = object({
  id: text,
  /** Counted up with every save; a save must name the version it was made from. */
  version: count,
  begun: known<BegunBoard>('jolly', 'board'),
  changedAt: moment,
});
export type StoredBegunBoard = TypeOf<typeof storedBegunBoard>;

const usedBy = list(text);
const ownTypes = object({
  boards: list(object({ id: text, revision: text, name: text, usedBy })),
  parts: list(object({ id: text, name: text, kind: text, usedBy })),
  chips: list(object({ id: text, name: text, usedBy })),
});
export type OwnTypes = TypeOf<typeof ownTypes>;

/** What is added to the catalogue here: board types, chips, and lines of settings reports. */
export const boardTypes = {
  addBoard: endpoint('post /boards', {
    summary: 'Add a board type from a board file (YAML)',
    body: object({ file }),
    answer: json(board),
    refusals: ['bad-file', 'too-hard', 'id-taken'],
  }),
  ownTypes: endpoint('get /own-types', {
    summary: 'Boards, parts and chips that were added here, with what uses each',
    answer: json(ownTypes),
  }),
  begunBoards: endpoint('get /boards-begun', {
    summary: 'Boards that are being described, the newest change first',
    answer: json(list(storedBegunBoard)),
  }),
  beginBoard: endpoint('post /boards-begun', {
    summary:
      'Begin to describe a board: from nothing, as a copy, as a further revision, or one’s own once more',
    body: anyOf(
      object({ from: oneOf('nothing') }),
      object({ from: oneOf('copy', 'revision', 'own'), id, revision: shortLine(12) }),
    ),
    answer: json(storedBegunBoard),
    refusals: ['too-many'],
  }),
  begunBoard: endpoint('get /boards-begun/{id}', {
    summary: 'One that is being described',
    params: ofMachine,
    answer: json(storedBegunBoard),
  }),
  saveBegunBoard: endpoint('put /boards-begun/{id}', {
    summary: 'Save it over the version it was made from',
    params: ofMachine,
    body: object({ version: of<number>(() => Joi.number().integer().min(1)), begun: of<BegunBoard>(begunBoardSchema) }), // prettier-ignore
    answer: json(storedBegunBoard),
    refusals: ['stale'],
  }),
  dropBegunBoard: endpoint('delete /boards-begun/{id}', {
    summary: 'Throw it away, with its photo',
    params: ofMachine,
    answer: json(done),
  }),
  keepBoardPhoto: endpoint('post /boards-begun/{id}/photo', {
    summary: 'Keep the photo (JPEG or PNG) it is drawn over, drawn anew',
    params: ofMachine,
    takesBytes: LARGEST_PHOTO,
    answer: json(storedBegunBoard),
    refusals: ['bad-file', 'stale'],
  }),
  boardPhoto: endpoint('get /boards-begun/{id}/photo', {
    summary: 'That photo',
    params: ofMachine,
    answer: bytes,
  }),
  finishBoard: endpoint('post /boards-begun/{id}/board', {
    summary: 'Make a board type of it; the description is done with',
    params: ofMachine,
    answer: json(board),
    refusals: ['bad-file', 'too-hard', 'id-taken'],
  }),
  addChip: endpoint('post /chips', {
    summary: 'Add a chip from a chip file (YAML), or replace one that was added here before',
    body: object({ file }),
    answer: json(component('Chip', known<Chip>('id', 'name', 'marking'))),
    refusals: ['bad-file', 'too-hard', 'id-taken'],
  }),
  chipFile: endpoint('get /chips/{id}/file', {
    summary: 'A chip as a file (YAML)',
    params: { id },
    answer: bytes,
  }),
  boardFile: endpoint('get /boards/{id}/{revision}/file', {
    summary: 'A board type as a file (YAML)',
    params: { id, revision: shortLine(12) },
    answer: bytes,
  }),
  teach: endpoint('post /dialects/own/lines', {
    summary: 'Teach a line of a settings report: its text with # for each number, and what each number is',
    body: object({ line: known<DialectLine>() }),
    answer: json(dialect),
  }),
  forgetLine: endpoint('post /dialects/own/forget', {
    summary: 'Forget a line that was taught',
    body: object({ text: shortLine(LONGEST_LINE) }),
    answer: json(dialect),
  }),
};
