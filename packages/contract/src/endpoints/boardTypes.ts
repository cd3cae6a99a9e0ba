import Joi from 'joi';
import type { Board } from '@jolly/core/board/board';
import { LONGEST_YAML } from '@jolly/core/formats/readYaml';
import type { Dialect, DialectLine } from '@jolly/core/report/dialect';
import { LONGEST_LINE } from '@jolly/core/text/limits';
import { bytes, endpoint, json } from '../endpoint';
import { id, shortLine } from '../params';
import { known, object, of } from '../shape';

const dialect = known<Dialect>('id', 'name', 'lines');

/** What is added to the catalogue here: board types, and lines of settings reports. */
export const boardTypes = {
  addBoard: endpoint('post /boards', {
    summary: 'Add a board type from a board file (YAML)',
    body: object({ file: of<string>(Joi.string().max(LONGEST_YAML)) }),
    answer: json(known<Board>('id', 'name', 'revision', 'chip')),
    refusals: ['bad-file', 'too-hard', 'id-taken'],
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
