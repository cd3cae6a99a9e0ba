import { boardBy } from '@jolly/core/catalogue/catalogue';
import Joi from 'joi';
import { LONGEST_YAML } from '@jolly/core/formats/readYaml';
import { line } from '@jolly/core/text/plainText';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import type { Context } from '../context';
import { putOwnBoard } from '../sql/ownBoards';
import { ApiError, notFound } from './apiError';
import type { Endpoint } from './endpoint';
import { idParams } from './params';

export function boardTypeEndpoints(context: Context): Endpoint[] {
  return [
    {
      method: 'post',
      path: '/boards',
      summary: 'Add a board type from a board file (YAML)',
      body: Joi.object({ file: Joi.string().max(LONGEST_YAML).required() }),
      run: async ({ body }) => {
        const { catalogue } = context;
        const read = await context.reading.read('boardFile', {
          text: (body as { file: string }).file,
          chips: catalogue.chips,
        });
        if ('problems' in read) {
          const first = read.problems[0]!;
          throw new ApiError(
            422,
            'bad-file',
            `line ${first.line}, column ${first.column}: ${first.message}`,
            {
              path: first.path,
              problems: read.problems,
            },
          );
        }
        const board = read.value;
        const sameType = (entry: { id: string; revision: string }) =>
          entry.id === board.id && entry.revision === board.revision;
        if (catalogue.boards.some(sameType) && !context.ownBoards.has(`${board.id} ${board.revision}`))
          throw new ApiError(
            409,
            'id-taken',
            `the catalogue has a board "${board.id}" at revision "${board.revision}"; give yours another id`,
            { path: 'id' },
          );
        await putOwnBoard(context.db, board, context.now());
        context.ownBoards.add(`${board.id} ${board.revision}`);
        catalogue.boards = [...catalogue.boards.filter((entry) => !sameType(entry)), board];
        return board;
      },
    },
    {
      method: 'get',
      path: '/boards/{id}/{revision}/file',
      summary: 'A board type as a file (YAML)',
      params: { ...idParams, revision: line(12) },
      raw: true,
      run: ({ params, reply }) => {
        const board = boardBy(context.catalogue, { id: params['id'], revision: params['revision'] });
        if (!board) throw notFound('board', `${params['id']} rev ${params['revision']}`);
        reply.type('text/yaml').attachment(`${board.id}-${board.revision}.yaml`).send(writeBoardFile(board));
      },
    },
  ];
}
